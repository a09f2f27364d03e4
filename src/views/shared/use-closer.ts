'use client';
import { useGesture } from '@use-gesture/react';
import { type RefObject, useEffect, useRef, useState } from 'react';
import { useKeys } from '@/ui/keymap';
import { type Closer, closerAt, PAN, STEP, WHOLE } from './closer';

const ARROWS: Record<string, readonly [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

/**
 * A picture looked at more closely: two fingers, the wheel (with Ctrl only, unless `wheel`), keys and buttons; pulled while it is closer.
 * @param place the element it stands in, `picture` the picture itself; `pixels` is its true width.
 */
export function useCloser(
  place: RefObject<HTMLElement | null>,
  picture: RefObject<HTMLElement | null>,
  { pixels, wheel }: { pixels: number; wheel: boolean },
) {
  const [closer, setCloser] = useState(WHOLE);
  const latest = useRef(closer);
  const put = (next: Closer) => {
    latest.current = next;
    setCloser(next);
  };
  const sizes = () => {
    const [outer, inner] = [place.current?.getBoundingClientRect(), picture.current?.getBoundingClientRect()];
    if (!outer?.width || !inner?.width) return null;
    const { scale } = latest.current;
    return { outer, fit: { width: inner.width / scale, height: inner.height / scale } };
  };
  const to = (scale: number, at?: readonly [number, number]) => {
    const now = sizes();
    if (!now) return;
    const { outer, fit } = now;
    const from = at && { x: at[0] - outer.left - outer.width / 2, y: at[1] - outer.top - outer.height / 2 };
    put(closerAt(latest.current, scale, fit, outer, from));
  };
  /** Moves what is seen by CSS pixels of the place. */
  const pan = (dx: number, dy: number) => {
    const now = sizes();
    if (!now) return;
    const { scale, x, y } = latest.current;
    put(closerAt({ scale, x: x + dx / (now.fit.width * scale), y: y + dy / (now.fit.height * scale) }, scale, now.fit, now.outer));
  };
  const nearer = () => to(latest.current.scale * STEP);
  const farther = () => to(latest.current.scale / STEP);
  const whole = () => put(WHOLE);
  /** One pixel of the picture to a pixel of the screen. */
  const oneToOne = () => {
    const now = sizes();
    if (now) to(pixels / (now.fit.width * window.devicePixelRatio));
  };
  useGesture(
    {
      onPinch: ({ origin, movement: [by], memo = latest.current.scale, event }) => {
        event.preventDefault();
        to(memo * by, origin);
        return memo;
      },
      onWheel: ({ delta: [, dy], event, ctrlKey }) => {
        // With Ctrl it is a pinch already.
        if (!wheel || ctrlKey) return;
        event.preventDefault();
        to(latest.current.scale * 2 ** (-dy / 400), [event.clientX, event.clientY]);
      },
      onDrag: ({ delta: [dx, dy], pinching, event, tap }) => {
        if (pinching || tap || latest.current.scale === 1 || (event.target as HTMLElement).closest('button')) return;
        pan(-dx, -dy);
      },
    },
    { target: place, eventOptions: { passive: false }, drag: { filterTaps: true }, pinch: { pinchOnWheel: true } },
  );
  useKeys({
    nearer,
    farther,
    whole,
    oneToOne,
    panPicture: ({ key }) => {
      const [x, y] = ARROWS[key] ?? [0, 0];
      const outer = place.current?.getBoundingClientRect();
      if (outer) pan(x * PAN * outer.width, y * PAN * outer.height);
    },
  });
  const again = useRef<() => void>(() => undefined);
  useEffect(() => {
    again.current = () => {
      if (latest.current.scale > 1) to(latest.current.scale);
    };
  });
  // A place that changes its size shows no empty rim.
  useEffect(() => {
    const watch = new ResizeObserver(() => again.current());
    if (place.current) watch.observe(place.current);
    return () => watch.disconnect();
  }, [place]);
  return { closer, nearer, farther, whole, oneToOne };
}
