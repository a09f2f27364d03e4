import type { Project } from '@/core/document';
import { say } from '@/core/words';
import { keepFile } from './keep-file';
import { changeShot } from './shots';

/** A font of the user's own, kept with the project and used for a title's words. Throws a sentence where it cannot be read. */
export async function takeFont(project: Project, shotId: string, layerId: string, file: File): Promise<void> {
  await new FontFace('tried', await file.arrayBuffer()).load().catch(() => {
    throw new Error(say`“${file.name}” cannot be read as a font. TTF, OTF, WOFF and WOFF2 can.`);
  });
  const media = await keepFile(file, file.name, { kind: 'font', type: file.type || 'font/ttf', codec: 'font' });
  changeShot(
    shotId,
    say`Use a font of one’s own`,
    (shot) => ({
      ...shot,
      layers: shot.layers.map((l) =>
        l.id === layerId && l.source.kind === 'title' ? { ...l, source: { ...l.source, fontId: media.id } } : l,
      ),
    }),
    [media],
    project.id,
  );
}
