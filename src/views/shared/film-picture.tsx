'use client';
import { Maximize, Minimize } from 'lucide-react';
import { type ReactNode, useEffect, useRef, useState } from 'react';
import { loopFrames, playedSpot, usePlayback } from '@/data/playback';
import { filmPicture, pictureAt, readAhead, stopReading } from '@/data/player';
import { useProject } from '@/data/store';
import type { Picture } from '@/media/picture';
import { Button } from '@/ui/controls';
import { useFilledWindow } from './filled-window';
import { Transport } from './transport';

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

function put(canvas: HTMLCanvasElement, { width, height, rgba }: Picture, frame: number): void {
  if (canvas.width !== width || canvas.height !== height) {
    canvas.width = width;
    canvas.height = height;
  }
  canvas.getContext('2d')?.putImageData(new ImageData(rgba, width, height), 0, 0);
  canvas.dataset.frame = String(frame);
}

async function drawInto(canvas: HTMLCanvasElement | null): Promise<void> {
  const { project, playhead } = useProject.getState();
  if (!project || !canvas) return;
  const began = performance.now();
  try {
    put(canvas, await filmPicture(project, playhead), playhead);
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
  readAhead(project, outside ? { lap: spot.lap, frame: loop.first } : spot, loop);
  const due = pictureAt(spot);
  if (due && canvas.dataset.frame !== String(due.frame)) put(canvas, due.picture, due.frame);
}

/**
 * Draws the film's frame at the playhead into a canvas: while nothing plays the one asked for last, while it plays what was made ahead.
 * `slow` after 400 ms without a picture.
 */
function usePicture(): { canvas: React.RefObject<HTMLCanvasElement | null>; slow: boolean } {
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

/** The film's picture in its grey well; children lie over it. It can fill the window. */
export function FilmPicture({ children, className = '' }: { children?: ReactNode; className?: string }) {
  const { canvas, slow } = usePicture();
  const { box, filled, fill, leave } = useFilledWindow();
  const aspect = useProject((s) => (s.project ? s.project.frame.width / s.project.frame.height : 16 / 9));
  const place = filled ? 'fixed inset-0 z-40 h-dvh! w-screen flex-col' : `relative ${className}`;
  return (
    <div ref={box} className={`flex items-center justify-center overflow-hidden bg-well ${place}`}>
      <div className={`flex w-full items-center justify-center ${filled ? 'min-h-0 grow' : 'h-full'}`} style={{ containerType: 'size' }}>
        <div className="relative" style={{ width: `min(100cqw, 100cqh * ${aspect})`, aspectRatio: aspect }}>
          <canvas
            ref={canvas}
            className="absolute inset-0 h-full w-full"
            data-testid="film-picture"
            aria-label="The film at the playhead"
            role="img"
          />
          {!filled && children}
          {slow && (
            <p role="status" className="pointer-events-none absolute bottom-2 left-2 bg-paper px-2 py-1 text-sm text-ink">
              Reading the take…
            </p>
          )}
        </div>
      </div>
      {filled ? (
        <div className="flex w-full shrink-0 items-center gap-2 bg-paper px-3 py-2">
          <div className="grow">
            <Transport keys={false} />
          </div>
          <Button onClick={leave} aria-label="Back to the page">
            <Minimize size={18} aria-hidden />
          </Button>
        </div>
      ) : (
        <Button onClick={fill} aria-label="Fill the window with the picture" className="absolute top-2 right-2">
          <Maximize size={18} aria-hidden />
        </Button>
      )}
    </div>
  );
}
