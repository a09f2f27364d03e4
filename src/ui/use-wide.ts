'use client';
import { useSyncExternalStore } from 'react';

/** From where on a page has room for panes beside each other. */
const WIDE = '(min-width: 768px)';

function subscribe(tell: () => void): () => void {
  const query = window.matchMedia(WIDE);
  query.addEventListener('change', tell);
  return () => query.removeEventListener('change', tell);
}

/** Whether the window is wide enough for panes; not while the page is made on a server. */
export const useWide = (): boolean =>
  useSyncExternalStore(
    subscribe,
    () => window.matchMedia(WIDE).matches,
    () => false,
  );
