import { emptyProject, type Media, type Project, type Take } from '@/core/document';
import { filmFrames } from '@/core/evaluate';
import { say } from '@/core/words';
import { storeMedia } from '@/media/files';
import { db } from './db';
import { derived } from './derived';
import { laundrettePlans } from './laundrette';
import { takeInFiles } from './media';
import { addProject, DEMO_OPENING, demoIsBegun, edit, forgetSteps, openProject, settled, useProject, withFiles } from './store';

export const DEMO_NAME = say`Night laundrette`;

/** The demo's files as they ship; they come in exactly as a user's own would. */
const FILES = [
  { name: 'take-1-clean-plate.mp4', type: 'video/mp4' },
  { name: 'take-2-outfit-one.mp4', type: 'video/mp4' },
  { name: 'take-3-outfit-two.mp4', type: 'video/mp4' },
  { name: 'clones-the-hand-over-place-p1.mp4', type: 'video/mp4' },
  { name: 'clones-the-hand-over-place-p2.mp4', type: 'video/mp4' },
  { name: 'half-load.m4a', type: 'audio/mp4' },
];

/** Puts what was heard in the demo's song where it would be kept after listening; where that cannot be had the song is listened to. */
async function keepHeard(): Promise<void> {
  try {
    const answer = await fetch('/demo/heard.json');
    if (!answer.ok) return;
    const revived = (_: string, value: unknown) => {
      const packed = (value as { float32?: string } | null)?.float32;
      if (typeof packed !== 'string') return value;
      return new Float32Array(Uint8Array.from(atob(packed), (c) => c.charCodeAt(0)).buffer);
    };
    const { key, value } = JSON.parse(await answer.text(), revived) as { key: string; value: unknown };
    if (/^song:\d+:\w+$/.test(key)) await derived(key, async () => value);
  } catch {
    // It can be worked out again.
  }
}

/** The demo's film as `scripts/bake-film.ts` writes it; its takes are named by their files. */
interface Film extends Pick<Project, 'shots' | 'nestedShots' | 'overAll'> {
  clips: Project['sound']['clips'];
  media: Media[];
  corrections: { mediaId: string; correction: Take['correction'] }[];
}

/** Puts the film on the score that was made of the demo's takes, with what was worked out for it. Returns '' or a sentence. */
async function layFilm(onStep: (text: string, done: number) => void): Promise<string> {
  const { project } = useProject.getState();
  if (!project || project.shots.length > 0) return '';
  onStep(say`Fetching the film`, 0.9);
  const answer = await fetch('/demo/film.json').catch(() => null);
  if (!answer) return say`The demo’s film could not be fetched. Check the connection and try again; your own projects work without it.`;
  // Where none was made yet the score is empty.
  if (!answer.ok) return '';
  let text = await answer.text();
  for (const take of project.takes) text = text.replaceAll(`"take of ${take.mediaId}"`, `"${take.id}"`);
  const film = JSON.parse(text) as Film;
  for (const { id, type } of film.media) {
    const file = await fetch(`/demo/kept/${id}`).catch(() => null);
    if (!file?.ok) return say`The demo’s film could not be fetched whole. Check the connection and try again.`;
    await storeMedia(id, new Blob([await file.arrayBuffer()], { type }));
  }
  edit(say`Lay the demo film`, (draft) => {
    withFiles(draft, film.media);
    draft.shots = film.shots;
    draft.nestedShots = film.nestedShots;
    if (film.overAll) draft.overAll = film.overAll;
    draft.sound.clips = film.clips ?? [];
    for (const take of draft.takes) {
      const own = film.corrections.find((c) => c.mediaId === take.mediaId);
      if (own) take.correction = own.correction;
    }
  });
  return '';
}

const SETTINGS = { shutter: '1/50', aperture: 'f/5.6', iso: '800', whiteBalance: '3200 K', lens: '28 mm' };

/** The project a begun demo is, opened as far as it is; a new one where none was begun. Null while another tab is at it. */
async function beginOrGoOn(): Promise<string | null> {
  const begun = (await db.settings.get(DEMO_OPENING))?.value;
  const known = typeof begun === 'string' ? await db.projects.get(begun) : undefined;
  const id = known && !known.deleted ? known.id : crypto.randomUUID();
  await db.settings.put({ key: DEMO_OPENING, value: id });
  if (known?.id === id) await openProject(id);
  else await addProject(emptyProject(id, DEMO_NAME));
  return useProject.getState().writable ? id : null;
}

/** Waits until another tab has opened the demo, or has been closed over it. */
async function waitForOther(onStep: (text: string, done: number) => void): Promise<void> {
  onStep(say`Another tab is opening the demo`, 0.5);
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
    onStep(say`Fetching ${name}`, files.length / FILES.length);
    const answer = await fetch(`/demo/${name}`).catch(() => null);
    if (!answer?.ok)
      return say`The demo file ${name} could not be fetched. Check the connection and try again; your own projects work without it.`;
    files.push(new File([await answer.blob()], name, { type }));
  }
  if (here?.plans.length === 0)
    edit(say`Plan the demo shots`, (draft) => {
      draft.plans = laundrettePlans('2026-11-27');
    });
  useProject.setState({ selectedPlan: 'demo-curtain' });
  await keepHeard();
  const results = await takeInFiles(files, (name, done) => onStep(say`Taking in ${name}`, done));
  const failed = results.find((r) => r.problem)?.problem ?? '';
  if (failed) return failed;
  edit(say`Log the demo takes`, (draft) => {
    for (const take of draft.takes) {
      take.settings = { ...SETTINGS };
      take.rating = take.slot === 'plate' ? 2 : 3;
    }
    draft.takes.find((t) => t.slot === 'two')!.note = say`Someone brushed the tripod early on.`;
    draft.takes.find((t) => t.slot === 'place-p2')!.note = say`A lamp was dimmed towards the end; the bundle crosses over.`;
  });
  const unlaid = await layFilm(onStep);
  if (unlaid) return unlaid;
  await forgetSteps();
  await settled();
  await db.settings.delete(DEMO_OPENING);
  const { project } = useProject.getState();
  // The picture is there at once, and playing begins with it.
  useProject.setState({ playhead: project && project.shots.length > 0 ? filmFrames(project)[0] : 0 });
  return '';
}
