'use client';
import { createContext, useCallback, useContext, useEffect, useRef, useState } from 'react';
import { useKeys } from '@/ui/keymap';

const Place = createContext<HTMLElement | null>(null);
/** Where what opens over a filled window has to stand to be seen: within it. Null where nothing is filled. */
export const FilledPlace = Place.Provider;
export const usePlace = () => useContext(Place);

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
    const onChange = () => !document.fullscreenElement && setFilled(false);
    document.addEventListener('fullscreenchange', onChange);
    return () => document.removeEventListener('fullscreenchange', onChange);
  }, [filled]);
  useKeys({ stop: leave }, filled);
  return { box, filled, fill, leave };
}
