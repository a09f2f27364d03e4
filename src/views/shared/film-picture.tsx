'use client';
import { Maximize, Minimize, ZoomIn, ZoomOut } from 'lucide-react';
import { type ReactNode, useRef } from 'react';
import { say } from '@/core/words';
import { useProject } from '@/data/store';
import { Button } from '@/ui/controls';
import { useWide } from '@/ui/use-wide';
import { AidsMenu } from './aids-menu';
import { FilledPlace, useFilledWindow } from './filled-window';
import { Guides, OnionSkins } from './over-picture';
import { usePictureAids } from './picture-aids';
import { ScopesOf } from './scopes';
import { Transport } from './transport';
import { useCloser } from './use-closer';
import { usePicture } from './use-picture';

/** Enlargement from which single pixels are told apart rather than smoothed. */
const PIXELS = 3;

/** How close the picture is, and closer or farther by a press. */
function CloserButtons({
  shown,
  nearer,
  farther,
  whole,
  oneToOne,
}: { shown: number } & Record<'nearer' | 'farther' | 'whole' | 'oneToOne', () => void>) {
  return (
    <div className="flex items-center gap-1">
      <Button onClick={farther} disabled={shown <= 1} aria-label={say`Farther`}>
        <ZoomOut size={18} aria-hidden />
      </Button>
      <Button onClick={whole} disabled={shown <= 1} aria-label={say`The whole picture`}>
        <span className="num">{Math.round(shown * 100)} %</span>
      </Button>
      <Button onClick={oneToOne} aria-label={say`One pixel of the film to one of the screen`}>
        1:1
      </Button>
      <Button onClick={nearer} aria-label={say`Closer`}>
        <ZoomIn size={18} aria-hidden />
      </Button>
    </div>
  );
}

/**
 * The film's picture in its grey well; children lie over it. It can fill the window and be looked at closely. `wheel` where nothing around
 * it scrolls: the wheel goes closer.
 */
export function FilmPicture({ children, className = '', wheel = false }: { children?: ReactNode; className?: string; wheel?: boolean }) {
  const { canvas, slow } = usePicture();
  const { box, filled, fill, leave } = useFilledWindow();
  const wide = useWide();
  const aids = usePictureAids();
  const room = useRef<HTMLDivElement>(null);
  const picture = useRef<HTMLDivElement>(null);
  const width = useProject((s) => s.project?.frame.width ?? 16);
  const height = useProject((s) => s.project?.frame.height ?? 9);
  const aspect = width / height;
  const { closer, ...by } = useCloser(room, picture, { pixels: width, wheel: filled || (wheel && wide) });
  const { scale, x, y } = closer;
  const place = filled ? 'fixed inset-0 z-40 h-dvh! w-screen flex-col' : `relative ${className}`;
  return (
    <div ref={box} className={`flex items-center justify-center overflow-hidden bg-well ${place}`}>
      <FilledPlace value={filled ? box.current : null}>
        <div
          ref={room}
          className={`relative flex w-full items-center justify-center overflow-hidden ${filled ? 'min-h-0 grow' : 'h-full'} ${scale > 1 ? 'touch-none cursor-grab' : 'touch-pan-y'}`}
          style={{ containerType: 'size' }}
        >
          <div
            ref={picture}
            className="relative shrink-0"
            data-testid="looked-at"
            style={{
              width: `calc(min(100cqw, 100cqh * ${aspect}) * ${scale})`,
              aspectRatio: aspect,
              transform: scale > 1 ? `translate(${(0.5 - x) * 100}%, ${(0.5 - y) * 100}%)` : undefined,
            }}
          >
            <canvas
              ref={canvas}
              className="absolute inset-0 h-full w-full"
              style={{ imageRendering: scale >= PIXELS ? 'pixelated' : undefined }}
              data-testid="film-picture"
              aria-label={aids.bare ? say`The film at the playhead, without masks and effects` : say`The film at the playhead`}
              role="img"
            />
            <OnionSkins />
            <Guides frame={{ width, height }} />
            {children}
          </div>
          {slow && (
            <p role="status" className="pointer-events-none absolute bottom-2 left-2 bg-paper px-2 py-1 text-sm text-ink">
              {say`Reading the take…`}
            </p>
          )}
        </div>
        {aids.scopes && (
          <div className="pointer-events-none absolute top-2 left-2 z-10">
            <ScopesOf canvas={canvas} />
          </div>
        )}
        {filled ? (
          <div className="flex w-full shrink-0 flex-wrap items-center gap-2 bg-paper px-3 py-2">
            <div className="grow">
              <Transport keys={false} />
            </div>
            <CloserButtons shown={scale} {...by} />
            <AidsMenu />
            <Button onClick={leave} aria-label={say`Back to the page`}>
              <Minimize size={18} aria-hidden />
            </Button>
          </div>
        ) : (
          <div className="absolute top-2 right-2 z-10 flex gap-1">
            {(wide || scale > 1) && <CloserButtons shown={scale} {...by} />}
            <AidsMenu />
            <Button onClick={fill} aria-label={say`Fill the window with the picture`}>
              <Maximize size={18} aria-hidden />
            </Button>
          </div>
        )}
      </FilledPlace>
    </div>
  );
}
