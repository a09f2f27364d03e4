'use client';
import { type RefObject, useEffect, useRef } from 'react';
import { type Scopes, scopesOf } from '@/core/measure';
import { say } from '@/core/words';

const WIDE = 256;
const TALL = 100;
const ROUND = 128;
const PAPER = [43, 43, 43] as const;
const SHOWN = [255, 250, 240] as const;

/** Fills a picture with counts, brighter the more there are. */
function counted(data: Uint8ClampedArray, cells: number, count: (cell: number) => number, most: number, colour: readonly number[] = SHOWN) {
  for (let i = 0; i < cells; i++) {
    const share = Math.min(1, Math.sqrt(count(i) / Math.max(1, most)));
    for (const c of [0, 1, 2]) data[4 * i + c] = PAPER[c] + share * (colour[c] - PAPER[c]);
    data[4 * i + 3] = 255;
  }
}

function drawWaveform(page: CanvasRenderingContext2D, { columns, waveform }: Scopes): void {
  const image = page.createImageData(columns, TALL);
  const rows = 256 / TALL;
  const count = (i: number) => {
    const [x, y] = [i % columns, Math.floor(i / columns)];
    let n = 0;
    for (let level = Math.floor(255 - (y + 1) * rows) + 1; level <= 255 - y * rows; level++)
      n += waveform[x * 256 + Math.max(0, level)] ?? 0;
    return n;
  };
  counted(image.data, columns * TALL, count, 24);
  page.canvas.width = columns;
  page.canvas.height = TALL;
  page.putImageData(image, 0, 0);
}

function drawVectorscope(page: CanvasRenderingContext2D, { vectorscope }: Scopes): void {
  page.canvas.width = ROUND;
  page.canvas.height = ROUND;
  const image = page.createImageData(ROUND, ROUND);
  const count = (i: number) => {
    // Cr upwards, as vectorscopes have it; two by two levels a cell.
    const [u, v] = [2 * (i % ROUND), 254 - 2 * Math.floor(i / ROUND)];
    return vectorscope[v * 256 + u] + vectorscope[v * 256 + u + 1] + vectorscope[(v + 1) * 256 + u] + vectorscope[(v + 1) * 256 + u + 1];
  };
  counted(image.data, ROUND * ROUND, count, 40);
  page.putImageData(image, 0, 0);
  page.strokeStyle = 'rgba(255, 250, 240, 0.35)';
  page.strokeRect(0.5, 0.5, ROUND - 1, ROUND - 1);
  page.beginPath();
  page.moveTo(ROUND / 2, 0);
  page.lineTo(ROUND / 2, ROUND);
  page.moveTo(0, ROUND / 2);
  page.lineTo(ROUND, ROUND / 2);
  page.stroke();
}

function drawHistogram(page: CanvasRenderingContext2D, { histogram }: Scopes): void {
  page.canvas.width = WIDE;
  page.canvas.height = TALL;
  page.fillStyle = `rgb(${PAPER.join()})`;
  page.fillRect(0, 0, WIDE, TALL);
  page.globalCompositeOperation = 'lighter';
  const inks = { luma: 'rgb(90, 88, 84)', red: 'rgb(150, 40, 30)', green: 'rgb(30, 120, 40)', blue: 'rgb(40, 60, 160)' };
  // Clipped ends would press all else down.
  const most = Math.max(1, ...Object.values(histogram).flatMap((counts) => [...counts.subarray(2, 254)]));
  for (const [name, ink] of Object.entries(inks)) {
    page.fillStyle = ink;
    histogram[name as keyof typeof inks].forEach((n, level) => {
      const high = Math.min(TALL, (n / most) * TALL);
      page.fillRect(level, TALL - high, 1, high);
    });
  }
}

const SCOPES = [
  { name: say`Waveform`, draw: drawWaveform, shape: 'aspect-[2.56] w-28 sm:w-40' },
  { name: say`Vectorscope`, draw: drawVectorscope, shape: 'aspect-square w-[2.75rem] sm:w-[3.9rem]' },
  { name: say`Histogram`, draw: drawHistogram, shape: 'aspect-[2.56] w-28 sm:w-40' },
] as const;

/** Milliseconds between two looks at a picture that changes. */
const LOOKS = 120;

/** Waveform, vectorscope and histogram of what a canvas shows, followed as it changes. */
export function ScopesOf({ canvas }: { canvas: RefObject<HTMLCanvasElement | null> }) {
  const box = useRef<HTMLDivElement>(null);
  useEffect(() => {
    let seen = '';
    const timer = setInterval(() => {
      const of = canvas.current;
      const drawn = `${of?.dataset.drawn}`;
      if (!of || drawn === seen || of.width === 0) return;
      const picture = of.getContext('2d')?.getImageData(0, 0, of.width, of.height);
      if (!picture) return;
      seen = drawn;
      const scopes = scopesOf(picture.data, of.width, of.height);
      box.current?.querySelectorAll('canvas').forEach((page, i) => {
        const to = page.getContext('2d');
        if (to) SCOPES[i].draw(to, scopes);
      });
      if (box.current) box.current.dataset.of = of.dataset.frame;
    }, LOOKS);
    return () => clearInterval(timer);
  }, [canvas]);
  return (
    <div ref={box} data-testid="scopes" className="pointer-events-none flex flex-wrap items-end gap-1">
      {SCOPES.map(({ name, shape }) => (
        <figure key={name} className="bg-[#2b2b2b] p-1 text-[0.7rem] text-[#fffaf0]">
          <canvas className={`block ${shape}`} role="img" aria-label={name} />
          <figcaption>{name}</figcaption>
        </figure>
      ))}
    </div>
  );
}
