'use client';
import { useEffect, useState } from 'react';
import { takePicture } from '@/data/pictures';
import { filmPictureSettled } from './use-picture';

const made = new Map<string, string>();
/** What is asked for, newest last: what the user looks at now comes first. */
const asked: (() => Promise<void>)[] = [];
let busy = false;

async function serve(): Promise<void> {
  if (busy) return;
  busy = true;
  for (let next = asked.pop(); next; next = asked.pop()) await next();
  busy = false;
}

async function make(mediaId: string, width: number, time: number): Promise<string> {
  const picture = await takePicture(mediaId, width, time);
  const canvas = document.createElement('canvas');
  canvas.width = 240;
  canvas.height = Math.round((240 * picture.height) / picture.width);
  const bitmap = await createImageBitmap(new ImageData(picture.rgba, picture.width, picture.height), {
    resizeWidth: canvas.width,
    resizeHeight: canvas.height,
    resizeQuality: 'high',
  });
  canvas.getContext('2d')?.drawImage(bitmap, 0, 0);
  return canvas.toDataURL('image/jpeg', 0.75);
}

/** A small picture of a take at a time, made one after another in the background, the newest first; '' until it is there. */
export function useThumbnail(mediaId: string, width: number, time: number): string {
  const key = `${mediaId}@${time.toFixed(2)}`;
  const [last, show] = useState({ key: '', src: '' });
  useEffect(() => {
    if (!mediaId || made.has(key)) return;
    let wanted = true;
    asked.push(async () => {
      await filmPictureSettled();
      if (!wanted) return;
      if (!made.has(key)) {
        made.set(key, await make(mediaId, width, time).catch(() => ''));
        if (made.size > 400) made.delete(made.keys().next().value as string);
      }
      show({ key, src: made.get(key) ?? '' });
    });
    void serve();
    return () => {
      wanted = false;
    };
  }, [key, mediaId, width, time]);
  return last.key === key ? last.src : (made.get(key) ?? '');
}
