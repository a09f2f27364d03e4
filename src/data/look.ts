import { useEffect } from 'react';
import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import { say } from '@/core/words';

/** How light or dark the pages are. */
export const LOOKS = [
  ['stage', say`dark while shooting, else light`],
  ['day', say`light`],
  ['night', say`dark`],
  ['device', say`as this device`],
] as const;
export type LookChoice = (typeof LOOKS)[number][0];

/** Kept in this browser. */
export const useLookChoice = create<{ choice: LookChoice }>()(
  persist((): { choice: LookChoice } => ({ choice: 'stage' }), { name: 'look' }),
);

/** What a stage looks like: its path, what was chosen, and whether the device is set to dark. */
export function lookOf(choice: LookChoice, path: string, dark: boolean): 'day' | 'night' {
  if (choice === 'stage') return path.startsWith('/shoot') ? 'night' : 'day';
  if (choice === 'device') return dark ? 'night' : 'day';
  return choice;
}

const DARK = '(prefers-color-scheme: dark)';
const put = (look: 'day' | 'night') => {
  document.documentElement.dataset.look = look;
};

/** Gives the page the look it has on a path now. */
export const showLook = (path: string): void => put(lookOf(useLookChoice.getState().choice, path, window.matchMedia(DARK).matches));
/** Makes the page dark, whatever was chosen, until `showLook`. */
export const showDark = (): void => put('night');

/** Gives the page the look of a stage, and again when it is chosen otherwise or the device changes. */
export function useLook(path: string): void {
  const choice = useLookChoice((s) => s.choice);
  // biome-ignore lint/correctness/useExhaustiveDependencies: what is chosen is read where it is shown
  useEffect(() => {
    const device = window.matchMedia(DARK);
    const now = () => showLook(path);
    now();
    device.addEventListener('change', now);
    return () => device.removeEventListener('change', now);
  }, [choice, path]);
}

// What draws itself by the page's colours finds them before the first effect runs.
if (typeof document !== 'undefined') showLook(location.pathname);
