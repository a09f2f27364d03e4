'use client';
import { usePinch } from '@use-gesture/react';
import { type ReactNode, useEffect, useRef, useState } from 'react';
import { say } from '@/core/words';

export type Compare = 'seam' | 'wipe' | 'blink' | 'difference' | 'first' | 'second';

/** The most a picture is enlarged. */
export const MOST_ZOOM = 16;

/** How strongly a difference is shown. */
const AMPLIFY = 8;

/** Where the second picture shows: from where on, 0..1, at each place along; right of it, or below it where it runs across. */
export interface Edge {
  across: boolean;
  at: (along: number) => number;
}

function mixed(a: ImageData, b: ImageData, how: Compare, edge: Edge, blinked: boolean): ImageData {
  if (how === 'first' || (how === 'blink' && !blinked)) return a;
  if (how === 'second' || how === 'blink') return b;
  const { width, height } = a;
  const out = new ImageData(new Uint8ClampedArray(a.data), width, height);
  if (b.width !== width || b.height !== height) return out;
  const [long, wide] = edge.across ? [width, height] : [height, width];
  const starts = Array.from({ length: long }, (_, k) => (how === 'difference' ? 0 : Math.round(edge.at((k + 0.5) / long) * wide)));
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      if (edge.across ? y < starts[x] : x < starts[y]) continue;
      const i = 4 * (y * width + x);
      for (let c = 0; c < 3; c++) out.data[i + c] = how === 'difference' ? 128 + AMPLIFY * (b.data[i + c] - a.data[i + c]) : b.data[i + c];
    }
  }
  return out;
}

/** Two pictures of one set, compared; children lie over them. */
export function ComparePicture({
  first,
  second,
  how,
  edge,
  zoom,
  onZoom,
  children,
}: {
  first: ImageData | null;
  second: ImageData | null;
  how: Compare;
  edge: Edge;
  zoom: number;
  /** Two fingers, or a turned wheel with Ctrl, ask for another enlargement. */
  onZoom?: (zoom: number) => void;
  children?: ReactNode;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const area = useRef<HTMLDivElement>(null);
  usePinch(({ offset: [scale] }) => onZoom?.(scale), {
    target: area,
    enabled: onZoom !== undefined,
    eventOptions: { passive: false },
    from: () => [zoom, 0],
    scaleBounds: { min: 1, max: MOST_ZOOM },
  });
  const [blinked, setBlinked] = useState(false);
  useEffect(() => {
    if (how !== 'blink') return;
    // Slower than three flashes a second (WCAG 2.3.1).
    const timer = setInterval(() => setBlinked((b) => !b), 600);
    return () => clearInterval(timer);
  }, [how]);
  useEffect(() => {
    const target = canvas.current;
    if (!target || !first) return;
    target.width = first.width;
    target.height = first.height;
    target.getContext('2d')?.putImageData(second ? mixed(first, second, how, edge, blinked) : first, 0, 0);
    target.dataset.drawn = how;
  }, [first, second, how, edge, blinked]);
  const aspect = first ? first.width / first.height : 16 / 9;
  return (
    <div ref={area} className="touch-pan-x touch-pan-y overflow-auto bg-well" style={{ maxHeight: '62dvh' }}>
      <div className="relative" style={{ width: `${zoom * 100}%`, aspectRatio: aspect }}>
        <canvas
          ref={canvas}
          className="absolute inset-0 h-full w-full"
          role="img"
          aria-label={say`The two takes compared`}
          data-testid="compared"
        />
        {!first && <p className="absolute inset-0 flex items-center justify-center text-white">{say`Reading the takes…`}</p>}
        {children}
      </div>
    </div>
  );
}
