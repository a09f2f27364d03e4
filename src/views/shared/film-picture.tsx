'use client';
import { type ReactNode, useEffect, useRef, useState } from 'react';
import { pictureWorker } from '@/data/jobs';
import { useProject } from '@/data/store';

let drawing: Promise<void> = Promise.resolve();

/** Resolves when no picture of the film is being drawn: the time for work that can wait. */
export async function filmPictureSettled(): Promise<void> {
  let seen: Promise<void> | null = null;
  while (seen !== drawing) {
    seen = drawing;
    await seen;
  }
}

let sent: unknown = null;

async function drawInto(canvas: HTMLCanvasElement | null): Promise<void> {
  const { project, playhead } = useProject.getState();
  if (!project || !canvas) return;
  const began = performance.now();
  try {
    const worker = pictureWorker('film');
    if (sent !== project) {
      sent = project;
      await worker.use(project);
    }
    const picture = await worker.frame(playhead);
    if (canvas.width !== picture.width || canvas.height !== picture.height) {
      canvas.width = picture.width;
      canvas.height = picture.height;
    }
    canvas.getContext('2d')?.putImageData(new ImageData(picture.rgba, picture.width, picture.height), 0, 0);
    canvas.dataset.frame = String(playhead);
    performance.measure('picture', { start: began, end: performance.now() });
  } catch (error) {
    useProject.setState({ problem: error instanceof Error ? error.message : String(error) });
  }
}

/** Draws the film's frame at the playhead into a canvas; the newest request wins. `slow` after 400 ms without a picture. */
function usePicture(): { canvas: React.RefObject<HTMLCanvasElement | null>; slow: boolean } {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [slow, setSlow] = useState(false);
  useEffect(() => {
    let [busy, again, alive] = [false, false, true];
    const draw = async () => {
      again = true;
      if (busy) return;
      busy = true;
      while (again && alive) {
        again = false;
        const late = setTimeout(() => setSlow(true), 400);
        drawing = drawInto(canvas.current);
        await drawing;
        clearTimeout(late);
        if (alive) setSlow(false);
      }
      busy = false;
    };
    void draw();
    const stop = useProject.subscribe((now, before) => {
      if (now.playhead !== before.playhead || now.project !== before.project) void draw();
    });
    return () => {
      alive = false;
      stop();
    };
  }, []);
  return { canvas, slow };
}

/** The film's picture in its grey well; children lie over it. */
export function FilmPicture({ children, className = '' }: { children?: ReactNode; className?: string }) {
  const { canvas, slow } = usePicture();
  const aspect = useProject((s) => (s.project ? s.project.frame.width / s.project.frame.height : 16 / 9));
  return (
    <div className={`flex items-center justify-center overflow-hidden bg-well ${className}`} style={{ containerType: 'size' }}>
      <div className="relative" style={{ width: `min(100cqw, 100cqh * ${aspect})`, aspectRatio: aspect }}>
        <canvas
          ref={canvas}
          className="absolute inset-0 h-full w-full"
          data-testid="film-picture"
          aria-label="The film at the playhead"
          role="img"
        />
        {children}
        {slow && (
          <p role="status" className="pointer-events-none absolute bottom-2 left-2 bg-paper px-2 py-1 text-sm text-ink">
            Reading the take…
          </p>
        )}
      </div>
    </div>
  );
}
