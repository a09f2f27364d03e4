import { footageName, footageOf } from '@/core/document';
import { say } from '@/core/words';
import { type Progress, syncMedia, takeIn } from './jobs';
import { takingIn } from './storage-lock';
import { ELSEWHERE, edit, openNow, useProject, withFiles } from './store';

/**
 * Lets a take be heard from a microphone's file, found in it by the sound the camera took. Gives in words where it lies, or why it cannot be
 * used; the take stays as it was then.
 */
export async function hearFrom(takeId: string, file: File, onProgress: Progress, signal?: AbortSignal): Promise<string> {
  const here = openNow();
  const { project } = useProject.getState();
  if (!project) return say`No project is open.`;
  const footage = footageOf(project, takeId);
  if (!footage.hasSound)
    return say`${footageName(footage)} has no sound of its own, so nothing tells where ${file.name} belongs. Lay it on the score as a sound, under Song.`;
  return takingIn(async () => {
    const taken = await takeIn(file, (p) => onProgress(0.5 * p), signal);
    if (!taken.ok) return `${file.name}: ${taken.reason}`;
    const { media } = taken;
    if (!media.hasSound) return say`${file.name} has no sound.`;
    const [found] = await syncMedia(footage.id, [media.id], (p) => onProgress(0.5 + 0.5 * p), signal);
    if (!found.ok) return say`What ${footageName(footage)} heard is not in ${file.name}: ${found.reason}`;
    if (!here.same()) return ELSEWHERE;
    const { offset, driftPpm, spread } = found.match;
    edit(say`Hear a take from a microphone`, (draft) => {
      withFiles(draft, [media]);
      const take = draft.takes.find((t) => t.id === takeId);
      if (take) take.mic = { mediaId: media.id, offset, rate: 1 + driftPpm / 1e6 };
    });
    const drift =
      Math.abs(driftPpm) < 1 ? '' : say`, its clock ${Math.abs(driftPpm).toFixed(0)} millionths ${driftPpm > 0 ? 'faster' : 'slower'}`;
    return say`The take begins ${offset.toFixed(3)} s into ${file.name}, to ${(1000 * spread).toFixed(1)} ms${drift}.`;
  });
}
