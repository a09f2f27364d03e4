'use client';
import { useEffect, useRef } from 'react';
import { tinykeys } from 'tinykeys';

interface Shortcut {
  /** Key presses as tinykeys writes them; each of them does it. */
  keys: readonly string[];
  /** How the help sheet shows them. */
  shown: string;
  does: string;
  /** Where the focus is on one of these, the key is theirs. */
  not?: string;
}

/** Where keys are for typing, sliding or choosing. */
const TYPING = 'input, textarea, select, [role="slider"], [role="menu"], [role="dialog"], [cmdk-root]';
const PRESSED = `${TYPING}, button, a, summary`;

/** Every key of the application in one place; the help sheet is made of it. */
export const KEYMAP = {
  play: { keys: ['Space'], shown: 'Space', does: 'play and pause', not: PRESSED },
  frameBack: { keys: ['ArrowLeft'], shown: '←', does: 'one frame back' },
  frameOn: { keys: ['ArrowRight'], shown: '→', does: 'one frame on' },
  beatBack: { keys: ['Shift+ArrowLeft'], shown: 'Shift ←', does: 'one beat back' },
  beatOn: { keys: ['Shift+ArrowRight'], shown: 'Shift →', does: 'one beat on' },
  barBack: { keys: ['Alt+ArrowLeft'], shown: 'Alt ←', does: 'one bar back' },
  barOn: { keys: ['Alt+ArrowRight'], shown: 'Alt →', does: 'one bar on' },
  setKey: { keys: ['k'], shown: 'K', does: 'set the line’s key on this frame (Score, shot unfolded)' },
  removeKey: { keys: ['Delete'], shown: 'Delete', does: 'remove the line’s keys chosen, or the one on this frame' },
  nearer: { keys: ['+', 'Shift++', '=', 'Shift+='], shown: '+', does: 'closer to the picture' },
  farther: { keys: ['-'], shown: '-', does: 'farther from the picture' },
  whole: { keys: ['0'], shown: '0', does: 'the whole picture' },
  oneToOne: { keys: ['1'], shown: '1', does: 'one pixel of the film to one of the screen' },
  panPicture: {
    keys: ['$mod+ArrowLeft', '$mod+ArrowRight', '$mod+ArrowUp', '$mod+ArrowDown'],
    shown: 'Ctrl ← ↑ → ↓',
    does: 'move across the picture while it is closer',
  },
  find: { keys: ['$mod+k'], shown: 'Ctrl K', does: 'find a shot, take, part or bar (Score)', not: '[role="dialog"]' },
  tap: { keys: ['t'], shown: 'T', does: 'tap the beat (Song)' },
  film: {
    keys: ['Space', 'PageDown', 'Enter'],
    shown: 'Space, Enter',
    does: 'begin filming hands free; enough of this take (Shoot)',
    not: PRESSED,
  },
  stop: { keys: ['Escape'], shown: 'Escape', does: 'stop filming; leave the full window', not: '[role="dialog"], [role="menu"]' },
  undo: { keys: ['$mod+z'], shown: 'Ctrl Z', does: 'undo', not: 'input, textarea' },
  redo: { keys: ['$mod+Shift+z'], shown: 'Ctrl Shift Z', does: 'redo', not: 'input, textarea' },
  help: { keys: ['?', 'Shift+?'], shown: '?', does: 'this sheet', not: 'input, textarea' },
} as const satisfies Record<string, Shortcut>;

type Handlers = Partial<Record<keyof typeof KEYMAP, (event: KeyboardEvent) => void>>;

/** Listens to keys of the map for as long as the component is there and `on`; which of them it listens to stays the same. */
export function useKeys(handlers: Handlers, on = true): void {
  const latest = useRef(handlers);
  useEffect(() => {
    latest.current = handlers;
  });
  useEffect(() => {
    if (!on) return;
    const bindings = Object.keys(latest.current).flatMap((name) => {
      const { keys, not = TYPING }: Shortcut = KEYMAP[name as keyof typeof KEYMAP];
      const run = (event: KeyboardEvent) => {
        if (event.target instanceof Element && event.target.closest(not)) return;
        event.preventDefault();
        latest.current[name as keyof typeof KEYMAP]?.(event);
      };
      return keys.map((key) => [key, run] as const);
    });
    return tinykeys(window, Object.fromEntries(bindings));
  }, [on]);
}
