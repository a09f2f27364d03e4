'use client';
import { useCallback, useEffect, useRef, useState } from 'react';

/** One part of the page over the whole of it, and over the whole screen where the browser allows that. Escape leads back. */
export function useFilledWindow() {
  const box = useRef<HTMLDivElement>(null);
  const [filled, setFilled] = useState(false);
  const fill = useCallback(() => {
    setFilled(true);
    // A phone's browser may not: the window is filled all the same.
    box.current?.requestFullscreen?.().catch(() => undefined);
  }, []);
  const leave = useCallback(() => {
    setFilled(false);
    if (document.fullscreenElement) document.exitFullscreen().catch(() => undefined);
  }, []);
  useEffect(() => {
    if (!filled) return;
    const onKey = (e: KeyboardEvent) => e.key === 'Escape' && leave();
    const onChange = () => !document.fullscreenElement && setFilled(false);
    window.addEventListener('keydown', onKey);
    document.addEventListener('fullscreenchange', onChange);
    return () => {
      window.removeEventListener('keydown', onKey);
      document.removeEventListener('fullscreenchange', onChange);
    };
  }, [filled, leave]);
  return { box, filled, fill, leave };
}
