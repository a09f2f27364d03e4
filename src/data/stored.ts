import { folder } from '@/media/files';

/** Where a project file is put together before it is downloaded. */
export const PACKED = 'project.zip';

/** A title as the name of a file: letters and numbers, the rest as dashes. '' when nothing is left. */
export function slug(title: string): string {
  return title.replace(/[^\p{L}\p{N}]+/gu, '-').replace(/^-|-$/g, '');
}

/** Gives the user a file under a name. */
export function download(blob: Blob, name: string): void {
  const url = URL.createObjectURL(blob);
  const link = document.createElement('a');
  link.href = url;
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(url), 60_000);
}

/** A finished film from storage. */
export async function storedFilm(name: string): Promise<File> {
  return (await (await folder('films')).getFileHandle(name)).getFile();
}
