import { laundrettePlans } from './laundrette';
import { takeInFiles } from './media';
import { edit, newProject, useProject } from './store';

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

/** Opens the laundrette as a new project. `onStep` is told what is being done. Returns '' or a sentence. */
export async function openDemo(onStep: (text: string, done: number) => void): Promise<string> {
  const files: File[] = [];
  for (const { name, type } of FILES) {
    onStep(`Fetching ${name}`, files.length / FILES.length);
    const answer = await fetch(`/demo/${name}`).catch(() => null);
    if (!answer?.ok)
      return `The demo file ${name} could not be fetched. Check the connection and try again; your own projects work without it.`;
    files.push(new File([await answer.blob()], name, { type }));
  }
  await newProject('Night laundrette');
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
  useProject.setState({ playhead: 0 });
  return '';
}
