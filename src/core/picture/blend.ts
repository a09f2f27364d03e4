import type { Unit } from '../units';

/** Blend modes; formulas of W3C Compositing and Blending Level 1, section 9 (plus: section 8, "plus-lighter"). */
export const BLEND_MODES = ['normal', 'multiply', 'screen', 'overlay', 'darken', 'lighten', 'colour burn', 'plus'] as const;
export type BlendMode = (typeof BLEND_MODES)[number];

function hardLight(backdrop: Unit, source: Unit): Unit {
  return source <= 0.5 ? backdrop * 2 * source : backdrop + (2 * source - 1) - backdrop * (2 * source - 1);
}

/** One channel of B(cb, cs), both 0..1. */
export function blendChannel(mode: BlendMode, backdrop: Unit, source: Unit): Unit {
  switch (mode) {
    case 'normal':
      return source;
    case 'multiply':
      return backdrop * source;
    case 'screen':
      return backdrop + source - backdrop * source;
    case 'overlay':
      return hardLight(source, backdrop);
    case 'darken':
      return Math.min(backdrop, source);
    case 'lighten':
      return Math.max(backdrop, source);
    case 'colour burn':
      return backdrop === 1 ? 1 : source === 0 ? 0 : 1 - Math.min(1, (1 - backdrop) / source);
    case 'plus':
      return Math.min(1, backdrop + source);
  }
}
