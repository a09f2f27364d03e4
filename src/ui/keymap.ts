'use client';
import { useEffect, useRef } from 'react';
import { tinykeys } from 'tinykeys';
import { say } from '@/core/words';

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
  play: { keys: ['Space'], shown: 'Space', does: say`play and pause`, not: PRESSED },
  frameBack: { keys: ['ArrowLeft'], shown: '←', does: say`one frame back` },
  frameOn: { keys: ['ArrowRight'], shown: '→', does: say`one frame on` },
  beatBack: { keys: ['Shift+ArrowLeft'], shown: say`Shift ←`, does: say`one beat back` },
  beatOn: { keys: ['Shift+ArrowRight'], shown: say`Shift →`, does: say`one beat on` },
  barBack: { keys: ['Alt+ArrowLeft'], shown: say`Alt ←`, does: say`one bar back` },
  barOn: { keys: ['Alt+ArrowRight'], shown: say`Alt →`, does: say`one bar on` },
  setKey: { keys: ['k'], shown: 'K', does: say`set the line’s key on this frame (Score, shot unfolded)` },
  removeKey: { keys: ['Delete'], shown: 'Delete', does: say`remove the line’s keys chosen, or the one on this frame` },
  nearer: { keys: ['+', 'Shift++', '=', 'Shift+='], shown: '+', does: say`closer to the picture` },
  farther: { keys: ['-'], shown: '-', does: say`farther from the picture` },
  whole: { keys: ['0'], shown: '0', does: say`the whole picture` },
  oneToOne: { keys: ['1'], shown: '1', does: say`one pixel of the film to one of the screen` },
  panPicture: {
    keys: ['$mod+ArrowLeft', '$mod+ArrowRight', '$mod+ArrowUp', '$mod+ArrowDown'],
    shown: say`Ctrl ← ↑ → ↓`,
    does: say`move across the picture while it is closer`,
  },
  find: { keys: ['$mod+k'], shown: say`Ctrl K`, does: say`find a shot, take, part or bar (Score)`, not: '[role="dialog"]' },
  tap: { keys: ['t'], shown: 'T', does: say`tap the beat (Song)` },
  film: {
    keys: ['Space', 'PageDown', 'Enter'],
    shown: say`Space, Enter`,
    does: say`begin filming hands free; enough of this take (Shoot)`,
    not: PRESSED,
  },
  stop: { keys: ['Escape'], shown: 'Escape', does: say`stop filming; leave the full window`, not: '[role="dialog"], [role="menu"]' },
  undo: { keys: ['$mod+z'], shown: say`Ctrl Z`, does: say`undo`, not: 'input, textarea' },
  redo: { keys: ['$mod+Shift+z'], shown: say`Ctrl Shift Z`, does: say`redo`, not: 'input, textarea' },
  help: { keys: ['?', 'Shift+?'], shown: '?', does: say`this sheet`, not: 'input, textarea' },
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
