'use client';
import { useEffect, useRef } from 'react';
import type { TakeLock } from '@/core/measure';

/** Charts are drawn one after the other, each in a task of its own: a press between two of them need not wait for all. */
let before: Promise<unknown> = Promise.resolve();
const inTurn = (draw: () => void) => {
  // One that cannot be drawn is told to the console, and keeps none of those after it waiting.
  before = before
    .then(() => new Promise((go) => setTimeout(go, 0)))
    .then(draw)
    .catch(reportError);
};

/** Shift over time with bumps marked, and light below it. Drawn when it comes into sight; ECharts comes in only then. */
export function LockChart({ lock, label }: { lock: TakeLock; label: string }) {
  const place = useRef<HTMLDivElement>(null);
  useEffect(() => {
    let gone = false;
    let end = () => {};
    const seen = new IntersectionObserver(
      (entries) => {
        if (!entries.some((e) => e.isIntersecting)) return;
        seen.disconnect();
        void import('./echarts').then(({ draw }) =>
          inTurn(() => {
            if (!gone && place.current) end = draw(place.current, lock);
          }),
        );
      },
      { rootMargin: '200px' },
    );
    if (place.current) seen.observe(place.current);
    return () => {
      gone = true;
      seen.disconnect();
      end();
    };
  }, [lock]);
  return <div ref={place} className="h-52 w-full" role="img" aria-label={label} />;
}
