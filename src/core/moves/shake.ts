import { type Key, keyAt } from '../layer';

/** A shake that is full at once and dies away: keys on every second frame, across and down out of step. Common practice. */
export function shakeKeys(beat: number, offset: number, frames: number, size: number): { x: Key[]; y: Key[] } {
  const at = (k: number, value: number) => keyAt(beat, offset + k, value);
  const x: Key[] = [at(-1, 0)];
  const y: Key[] = [at(-1, 0)];
  for (let k = 0; k < frames; k += 2) {
    const left = size * (1 - k / frames) ** 2;
    x.push(at(k, (k % 4 ? -0.6 : 0.6) * left));
    y.push(at(k, (k % 4 ? -1 : 1) * left));
  }
  x.push(at(frames, 0));
  y.push(at(frames, 0));
  return { x, y };
}
