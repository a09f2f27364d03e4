/** A picture made small, as a data URL. */
export async function smallPicture(picture: Blob, width: number): Promise<string> {
  const bitmap = await createImageBitmap(picture, { resizeWidth: width, resizeQuality: 'high' });
  const canvas = new OffscreenCanvas(bitmap.width, bitmap.height);
  canvas.getContext('2d')?.drawImage(bitmap, 0, 0);
  bitmap.close();
  const bytes = new Uint8Array(await (await canvas.convertToBlob({ type: 'image/webp', quality: 0.8 })).arrayBuffer());
  return `data:image/webp;base64,${btoa(String.fromCharCode(...bytes))}`;
}
