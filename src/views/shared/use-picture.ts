'use client';
import { type RefObject, useEffect, useRef, useState } from 'react';
import type { Project } from '@/core/document';
import { loopFrames, playedSpot, usePlayback } from '@/data/playback';
import { filmPicture, pictureAt, readAhead, stopReading } from '@/data/player';
import { useProject } from '@/data/store';
import type { Picture } from '@/media/picture';
import { bared, usePictureAids } from './picture-aids';

/** How many pictures were put into canvases. */
let drawn = 0;
let drawing: Promise<void> = Promise.resolve();

/** Resolves when no picture of the film is asked for, and now and then while it plays: the time for work that can wait. */
export async function filmPictureSettled(): Promise<void> {
  if (usePlayback.getState().playing) return new Promise((go) => setTimeout(go, 600));
  let seen: Promise<void> | null = null;
  while (seen !== drawing) {
    seen = drawing;
    await seen;
  }
}

export function put(canvas: HTMLCanvasElement, { width, height, rgba }: Picture, frame: number): void {
  if (canvas.width !== width || canvas.height !== height) {
    canvas.width = width;
    canvas.height = height;
  }
  canvas.getContext('2d')?.putImageData(new ImageData(rgba, width, height), 0, 0);
  canvas.dataset.frame = String(frame);
  canvas.dataset.drawn = String(++drawn);
}

/** The project as it is looked at: as it is, or before its masks and effects. */
const lookedAt = (project: Project): Project => (usePictureAids.getState().bare ? bared(project) : project);

async function drawInto(canvas: HTMLCanvasElement | null): Promise<void> {
  const { project, playhead } = useProject.getState();
  if (!project || !canvas) return;
  const began = performance.now();
  try {
    put(canvas, await filmPicture(lookedAt(project), playhead), playhead);
    performance.measure('picture', { start: began, end: performance.now() });
  } catch (error) {
    useProject.setState({ problem: error instanceof Error ? error.message : String(error) });
  }
}

/** Shows what was made ahead for what is heard now. */
function showPlayed(canvas: HTMLCanvasElement | null): void {
  const { project } = useProject.getState();
  if (!project || !canvas) return;
  const loop = loopFrames(project);
  const spot = playedSpot();
  const outside = loop !== null && (spot.frame < loop.first || spot.frame >= loop.end);
  readAhead(lookedAt(project), outside ? { lap: spot.lap, frame: loop.first } : spot, loop);
  const due = pictureAt(spot);
  if (due && canvas.dataset.frame !== String(due.frame)) put(canvas, due.picture, due.frame);
}

/**
 * Draws the film's frame at the playhead into a canvas: while nothing plays the one asked for last, while it plays what was made ahead.
 * `slow` after 400 ms without a picture.
 */
export function usePicture(): { canvas: RefObject<HTMLCanvasElement | null>; slow: boolean } {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [slow, setSlow] = useState(false);
  useEffect(() => {
    let [busy, again, alive] = [false, false, true];
    const draw = async () => {
      again = true;
      if (busy) return;
      busy = true;
      while (again && alive && !usePlayback.getState().playing) {
        again = false;
        const late = setTimeout(() => setSlow(true), 400);
        drawing = drawInto(canvas.current);
        await drawing;
        clearTimeout(late);
        if (alive) setSlow(false);
      }
      busy = false;
    };
    const look = () => (usePlayback.getState().playing ? showPlayed(canvas.current) : void draw());
    look();
    const stops = [
      useProject.subscribe((now, before) => {
        if (now.playhead !== before.playhead || now.project !== before.project) look();
      }),
      usePictureAids.subscribe((now, before) => now.bare !== before.bare && look()),
      usePlayback.subscribe((now, before) => {
        if (now.playing === before.playing) return;
        if (!now.playing) stopReading();
        look();
      }),
    ];
    return () => {
      alive = false;
      stopReading();
      for (const stop of stops) stop();
    };
  }, []);
  return { canvas, slow };
}
