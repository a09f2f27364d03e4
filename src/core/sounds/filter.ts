import type { Seconds } from '../units';

/** One sample through a filter whose middle or corner (Hz) may change all the while. */
export type Filter = (sample: number, hertz: number) => number;

/**
 * A second-order band-pass (peak gain 1) or low-pass or high-pass. Coefficients after Robert Bristow-Johnson's “Audio EQ Cookbook” (W3C note
 * of the Audio Working Group).
 */
export function filter(kind: 'band' | 'low' | 'high', rate: number, q: number): Filter {
  let [x1, x2, y1, y2] = [0, 0, 0, 0];
  return (x, hertz) => {
    const w = (2 * Math.PI * Math.min(0.45 * rate, Math.max(10, hertz))) / rate;
    const [cos, alpha] = [Math.cos(w), Math.sin(w) / (2 * q)];
    const [b0, b1, b2] =
      kind === 'band'
        ? [alpha, 0, -alpha]
        : kind === 'low'
          ? [(1 - cos) / 2, 1 - cos, (1 - cos) / 2]
          : [(1 + cos) / 2, -(1 + cos), (1 + cos) / 2];
    const y = (b0 * x + b1 * x1 + b2 * x2 + 2 * cos * y1 - (1 - alpha) * y2) / (1 + alpha);
    [x2, x1, y2, y1] = [x1, x, y1, y];
    return y;
  };
}

/** A tone whose pitch (Hz) may change all the while: its phase runs on. */
export function oscillator(rate: number): (hertz: number, shape?: 'sine' | 'saw') => number {
  let phase = 0;
  return (hertz, shape = 'sine') => {
    phase = (phase + hertz / rate) % 1;
    return shape === 'sine' ? Math.sin(2 * Math.PI * phase) : 2 * phase - 1;
  };
}

/** What is left of 1 after some time when it halves every `half` seconds; 0 before. */
export const decay = (t: Seconds, half: Seconds): number => (t < 0 ? 0 : 2 ** (-t / half));

/** From 0 to 1 over a span, smoothly. */
export const smooth = (t: number): number => {
  const x = Math.min(1, Math.max(0, t));
  return x * x * (3 - 2 * x);
};
