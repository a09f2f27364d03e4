import { numberKind } from '../motion';
import { say } from '../words';
import type { EffectKind } from './kind';

const MOST = 64;

/** Brightness and colour in few even steps; as many as there are is none. */
export const posterise: EffectKind<{ steps: number }> = {
  kind: 'posterise',
  name: say`Posterise`,
  about: say`A few flat steps of each colour, like a print.`,
  numbers: { steps: numberKind('Steps', '', 2, MOST, MOST) },
  usual: { steps: 6 },
  resolve: ({ steps }) => (Math.round(steps) >= MOST ? null : { steps: Math.round(steps) }),
  scale: (resolved) => resolved,
  reach: () => 0,
  apply: ({ width, height, y, u, v }, { steps }) => {
    const level = (low: number, range: number) =>
      Uint8Array.from({ length: 256 }, (_, code) => {
        const share = Math.min(1, Math.max(0, (code - low) / range));
        return Math.round(low + (Math.round(share * (steps - 1)) / (steps - 1)) * range);
      });
    const [luma, chroma] = [
      level(16, 219),
      Uint8Array.from({ length: 256 }, (_, c) => 128 + Math.round((Math.round(((c - 128) * steps) / 112) * 112) / steps)),
    ];
    return { width, height, y: y.map((code) => luma[code]), u: u.map((code) => chroma[code]), v: v.map((code) => chroma[code]) };
  },
};
