import { emptyProject } from '@/core/shot';
import { db } from './db';
import { laundrettePlans } from './laundrette';
import { takeInFiles } from './media';
import { addProject, DEMO_OPENING, demoIsBegun, edit, forgetSteps, openProject, settled, useProject } from './store';

/** The demo's files as they ship; they come in exactly as a user's own would. */
const FILES = [
  { name: 'take-1-clean-plate.mp4', type: 'video/mp4' },
  { name: 'take-2-outfit-one.mp4', type: 'video/mp4' },
  { name: 'take-3-outfit-two.mp4', type: 'video/mp4' },
  { name: 'clones-the-hand-over-place-p1.mp4', type: 'video/mp4' },
  { name: 'clones-the-hand-over-place-p2.mp4', type: 'video/mp4' },
  { name: 'half-load.m4a', type: 'audio/mp4' },
];

const SETTINGS = { shutter: '1/50', aperture: 'f/5.6', iso: '800', whiteBalance: '3200 K', lens: '28 mm' };

/** The project a begun demo is, opened as far as it is; a new one where none was begun. Null while another tab is at it. */
async function beginOrGoOn(): Promise<string | null> {
  const begun = (await db.settings.get(DEMO_OPENING))?.value;
  const known = typeof begun === 'string' ? await db.projects.get(begun) : undefined;
  const id = known && !known.deleted ? known.id : crypto.randomUUID();
  await db.settings.put({ key: DEMO_OPENING, value: id });
  if (known?.id === id) await openProject(id);
  else await addProject(emptyProject(id, 'Night laundrette'));
  return useProject.getState().writable ? id : null;
}

/** Waits until another tab has opened the demo, or has been closed over it. */
async function waitForOther(onStep: (text: string, done: number) => void): Promise<void> {
  onStep('Another tab is opening the demo', 0.5);
  while (!useProject.getState().writable && (await demoIsBegun())) await new Promise((again) => setTimeout(again, 300));
}

/**
 * Opens the laundrette as a new project, or goes on with one that was begun and broken off. Each step is made only where it was not
 * made yet. `onStep` is told what is being done. Returns '' or a sentence; what there is stays and is gone on with the next time.
 */
export async function openDemo(onStep: (text: string, done: number) => void): Promise<string> {
  const id = await beginOrGoOn();
  if (id === null) {
    await waitForOther(onStep);
    if (!(await demoIsBegun())) return '';
  }
  const here = useProject.getState().project;
  const missing = FILES.filter(({ name }) => !here?.media.some((m) => m.name === name));
  const files: File[] = [];
  for (const { name, type } of missing) {
    onStep(`Fetching ${name}`, files.length / FILES.length);
    const answer = await fetch(`/demo/${name}`).catch(() => null);
    if (!answer?.ok)
      return `The demo file ${name} could not be fetched. Check the connection and try again; your own projects work without it.`;
    files.push(new File([await answer.blob()], name, { type }));
  }
  if (here?.plans.length === 0)
    edit('Plan the demo shots', (draft) => {
      draft.plans = laundrettePlans('2026-11-27');
    });
  useProject.setState({ selectedPlan: 'demo-curtain' });
  const results = await takeInFiles(files, (name, done) => onStep(`Taking in ${name}`, done));
  const failed = results.find((r) => r.problem)?.problem ?? '';
  if (failed) return failed;
  edit('Log the demo takes', (draft) => {
    for (const take of draft.takes) {
      take.settings = { ...SETTINGS };
      take.rating = take.slot === 'plate' ? 2 : 3;
    }
    draft.takes.find((t) => t.slot === 'two')!.note = 'Someone brushed the tripod early on.';
    draft.takes.find((t) => t.slot === 'place-p2')!.note = 'A lamp was dimmed towards the end; the bundle crosses over.';
  });
  await forgetSteps();
  await settled();
  await db.settings.delete(DEMO_OPENING);
  useProject.setState({ playhead: 0 });
  return '';
}
