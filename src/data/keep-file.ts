import type { Media } from '@/core/document';
import { contentId } from '@/media/content';
import { storeMedia } from '@/media/files';

/** A file that is neither film nor sound, stored as it is, as what a project says of it; `more` is what its kind has besides. */
export async function keepFile(
  file: Blob,
  name: string,
  more: Pick<Media, 'kind' | 'type' | 'codec'> & Partial<Pick<Media, 'width' | 'height'>>,
): Promise<Media> {
  const id = await contentId(file);
  await storeMedia(id, file);
  return {
    id,
    name,
    bytes: file.size,
    duration: 0,
    width: 0,
    height: 0,
    rotation: 0,
    fps: 0,
    variableRate: false,
    hasSound: false,
    colour: { matrix: 'bt709', fullRange: true },
    ...more,
  };
}
