import type { Media, Project } from '@/core/document';
import { contentId } from '@/media/content';
import { storeMedia } from '@/media/files';
import { changeShot } from './shots';

/** A font of the user's own, kept with the project and used for a title's words. Throws a sentence where it cannot be read. */
export async function takeFont(project: Project, shotId: string, layerId: string, file: File): Promise<void> {
  await new FontFace('tried', await file.arrayBuffer()).load().catch(() => {
    throw new Error(`“${file.name}” cannot be read as a font. TTF, OTF, WOFF and WOFF2 can.`);
  });
  const id = await contentId(file);
  await storeMedia(id, file);
  const media: Media = {
    id,
    kind: 'font',
    name: file.name,
    type: file.type || 'font/ttf',
    bytes: file.size,
    duration: 0,
    width: 0,
    height: 0,
    rotation: 0,
    codec: 'font',
    fps: 0,
    variableRate: false,
    hasSound: false,
    colour: { matrix: 'bt709', fullRange: true },
  };
  changeShot(
    shotId,
    'Use a font of one’s own',
    (shot) => ({
      ...shot,
      layers: shot.layers.map((l) => (l.id === layerId && l.source.kind === 'title' ? { ...l, source: { ...l.source, fontId: id } } : l)),
    }),
    [media],
    project.id,
  );
}
