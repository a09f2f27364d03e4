import { current } from 'immer';
import { create } from 'zustand';
import type { Media, Project } from '@/core/document';
import { say } from '@/core/words';
import { mediaSize } from '@/media/files';
import { ask } from './ask';
import type { Progress } from './jobs';
import { takingIn } from './storage-lock';
import { edit, useProject } from './store';

/** Files of the open project that are not in storage as they were taken in, by id. */
export const useMissing = create<{ files: ReadonlySet<string> }>(() => ({ files: new Set() }));

/** Looks which files of the open project are missing or damaged. */
export async function lookForMissing(): Promise<void> {
  const { project } = useProject.getState();
  if (!project) return;
  const sizes = await Promise.all(project.media.map((m) => mediaSize(m.id)));
  if (useProject.getState().project?.id !== project.id) return;
  useMissing.setState({ files: new Set(project.media.filter((m, i) => sizes[i] !== m.bytes).map((m) => m.id)) });
}

let looked: Project['media'] | null = null;
let soon: ReturnType<typeof setTimeout> | undefined;
/** Looks again whenever the project's files change. Returns how to stop. */
export function watchForMissing(): () => void {
  const look = () => {
    const { project } = useProject.getState();
    if (!project || project.media === looked) return;
    looked = project.media;
    clearTimeout(soon);
    soon = setTimeout(() => void lookForMissing().catch(() => undefined), 200);
  };
  look();
  return useProject.subscribe(look);
}

const sizeOf = (m: Media) => `${m.width ? `${m.width}×${m.height}, ` : ''}${m.duration.toFixed(1)} s, ${(m.bytes / 1e6).toFixed(1)} MB`;

/**
 * Points to the file of a take or song that is missing. The same file heals it; another is used in its place if the user says so,
 * everywhere the missing one was used. Returns '' or a sentence.
 */
export async function pointTo(missing: Media, file: File, onProgress: Progress, signal?: AbortSignal): Promise<string> {
  const of = useProject.getState().project?.id;
  return takingIn(async () => {
    const [{ takeIn }, { withFileRenamed }] = await Promise.all([import('./jobs'), import('@/core/exchange')]);
    const taken = await takeIn(file, onProgress, signal);
    if (!taken.ok) return taken.reason;
    const { media } = taken;
    if (media.id !== missing.id) {
      if (missing.kind === 'video' && media.kind !== 'video') return say`“${file.name}” holds no picture, and “${missing.name}” is a film.`;
      const answer = await ask({
        title: say`Another file`,
        text: say`“${file.name}” (${sizeOf(media)}) is not the file that is missing: “${missing.name}” (${sizeOf(missing)}). Used in its place it is shown and heard wherever that was.`,
        answers: [
          { id: 'none', label: say`Choose another file` },
          { id: 'use', label: say`Use it in its place` },
        ],
      });
      if (answer !== 'use') return '';
      const label = say`Use ${media.name} in place of ${missing.name}`;
      edit(
        label,
        (draft) => {
          const next = withFileRenamed(current(draft) as Project, missing.id, media.id);
          const others = next.media.filter((m) => m.id !== media.id);
          const duration = media.duration;
          Object.assign(draft, next, {
            media: [...others, media],
            // A part that the new file does not reach is all of it.
            takes: next.takes.map((t) => (t.mediaId === media.id && t.part && t.part.to > duration ? { ...t, part: null } : t)),
          });
        },
        of,
      );
    }
    await lookForMissing();
    return '';
  });
}
