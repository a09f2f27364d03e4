'use client';
import { useEffect, useRef } from 'react';
import type { TakeLock } from '@/core/measure';

/** Shift over time with bumps marked, and light below it. ECharts comes in only when this is on the page. */
export function LockChart({ lock, label }: { lock: TakeLock; label: string }) {
  const place = useRef<HTMLDivElement>(null);
  useEffect(() => {
    let gone = false;
    let end = () => {};
    void import('./echarts').then(({ draw }) => {
      if (!gone && place.current) end = draw(place.current, lock);
    });
    return () => {
      gone = true;
      end();
    };
  }, [lock]);
  return <div ref={place} className="h-52 w-full" role="img" aria-label={label} />;
}
