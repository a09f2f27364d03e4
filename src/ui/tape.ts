import type { CSSProperties } from 'react';

/** Twelve cloth tapes: four weaves by three families of colour, so that no two neighbours share either. */
const COLOURS = ['#b5472f', '#2f6d70', '#b98722', '#5c4a7d', '#4d7a3c', '#a04a6b'];

/** Background of a tape: its colour with its weave over it (plain, diagonal, dots, checks). */
export function tapeStyle(index: number): CSSProperties {
  const colour = COLOURS[index % COLOURS.length];
  const light = 'rgba(255,250,240,0.38)';
  const weaves = [
    {},
    { backgroundImage: `repeating-linear-gradient(45deg, ${light} 0 3px, transparent 3px 8px)` },
    { backgroundImage: `radial-gradient(${light} 30%, transparent 34%)`, backgroundSize: '7px 7px' },
    {
      backgroundImage: `linear-gradient(${light} 50%, transparent 50%), linear-gradient(90deg, ${light} 50%, transparent 50%)`,
      backgroundSize: '8px 8px',
    },
  ];
  return { backgroundColor: colour, ...weaves[index % 4] };
}

export function tapeColour(index: number): string {
  return COLOURS[index % COLOURS.length];
}
