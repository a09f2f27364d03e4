import * as z from 'zod/mini';
import { fromRgba } from '../picture';
import { randomAt } from '../room';
import { lengthOf } from '../units';
import { say } from '../words';
import type { SourceKind } from './kind';
import { type Moving, overFrame, share, within } from './made';

const schema = z.object({
  kind: z.literal('pieces'),
  r: share,
  g: share,
  b: share,
  /** How many come in a second, how long each is seen (frames), how large it is and how fast it sets out (per cent of the height, a second). */
  rate: within(1, 400),
  lasts: within(2, 250),
  size: within(0.2, 20),
  speed: within(0, 400),
  /** Where they come from: per cent of the frame's width and height, and over how much of the width. */
  x: within(-50, 150),
  y: within(-50, 150),
  spread: within(0, 200),
  /** The way they set out (0 down, 180 up) and how far they stray from it, degrees; and how they fall, per cent of the height a second each second. */
  angle: within(-360, 360),
  stray: within(0, 180),
  fall: within(-400, 400),
  shape: z.enum(['sparks', 'paper']),
  seed: within(0, 9999),
});
type Pieces = z.infer<typeof schema>;

const RATE = 25;

/** One piece at a frame: where it is, how large, how it is turned, and how much of it is still seen. */
export interface Piece {
  x: number;
  y: number;
  size: number;
  turn: number;
  /** How much of its width is seen as it tumbles. */
  flat: number;
  light: number;
  hue: number;
}

/** The pieces seen on a frame of a picture of a size; which they are depends on the seed alone, so a film is the same twice. */
export function piecesAt(p: Moving<Pieces>, width: number, height: number): Piece[] {
  const first = Math.max(0, Math.ceil(((p.frame - p.lasts) * p.rate) / RATE));
  const last = Math.floor((p.frame * p.rate) / RATE);
  return Array.from({ length: Math.max(0, last - first + 1) }, (_, i) => {
    const k = first + i;
    const random = randomAt(p.seed, k);
    const age = (p.frame - (k * RATE) / p.rate) / RATE;
    const way = ((p.angle + p.stray * (2 * random() - 1)) * Math.PI) / 180;
    const fast = (p.speed / 100) * height * (0.5 + random());
    const begun = { x: ((p.x + p.spread * (random() - 0.5)) / 100) * width, y: (p.y / 100) * height };
    const left = 1 - (age * RATE) / p.lasts;
    const spin = (random() - 0.5) * 12;
    return {
      x: begun.x + Math.sin(way) * fast * age,
      y: begun.y + Math.cos(way) * fast * age + ((p.fall / 100) * height * age * age) / 2,
      size: (p.size / 100) * height * (0.5 + random()),
      turn: spin * age + 6.28 * random(),
      flat: p.shape === 'paper' ? Math.abs(Math.cos(5 * age * (0.5 + random()) + 6.28 * random())) : 1,
      light: p.shape === 'paper' ? Math.min(1, 6 * left) : Math.max(0, left),
      hue: random(),
    };
  });
}

/** The same pieces as a picture and where they are seen. */
function drawn(p: Moving<Pieces>, width: number, height: number): { rgba: Uint8Array; alpha: Uint8Array } {
  const rgba = new Uint8Array(4 * width * height);
  const alpha = new Uint8Array(width * height);
  for (let i = 0; i < alpha.length; i++) rgba.set([255 * p.r, 255 * p.g, 255 * p.b, 255], 4 * i);
  for (const piece of piecesAt(p, width, height)) {
    const [half, thin] = [piece.size / 2, Math.max(0.5, (piece.size / 2) * piece.flat)];
    const reach = Math.ceil(lengthOf(half, thin)) + 1;
    const [c, s] = [Math.cos(piece.turn), Math.sin(piece.turn)];
    // Paper comes in lighter and darker sheets of its colour.
    const shade = p.shape === 'paper' ? 0.6 + 0.8 * piece.hue : 1;
    for (let y = Math.max(0, Math.floor(piece.y - reach)); y < Math.min(height, piece.y + reach); y++)
      for (let x = Math.max(0, Math.floor(piece.x - reach)); x < Math.min(width, piece.x + reach); x++) {
        const [dx, dy] = [x + 0.5 - piece.x, y + 0.5 - piece.y];
        const [u, v] = [c * dx + s * dy, c * dy - s * dx];
        const inside = p.shape === 'paper' ? Math.min(half - Math.abs(u), thin - Math.abs(v)) + 0.5 : 1.2 * (1 - lengthOf(u, v) / half);
        const cover = Math.min(1, Math.max(0, inside)) * piece.light;
        const at = y * width + x;
        if (255 * cover <= alpha[at]) continue;
        alpha[at] = 255 * cover;
        for (const [ch, value] of [p.r, p.g, p.b].entries()) rgba[4 * at + ch] = Math.min(255, 255 * value * shade);
      }
  }
  return { rgba, alpha };
}

/** Sparks or sheets of paper that fly from a place and fall, seeded. */
export const pieces: SourceKind<Pieces, Moving<Pieces>> = {
  kind: 'pieces',
  schema,
  name: say`Sparks and paper`,
  fresh: {
    kind: 'pieces',
    r: 1,
    g: 0.85,
    b: 0.5,
    rate: 40,
    lasts: 50,
    size: 2.5,
    speed: 30,
    x: 50,
    y: -5,
    spread: 120,
    angle: 0,
    stray: 30,
    fall: 20,
    shape: 'paper',
    seed: 1,
  },
  shows: 'in part',
  settings: [
    { is: 'colour', label: say`Colour` },
    {
      is: 'choice',
      label: say`Of`,
      of: 'shape',
      options: [
        ['paper', say`paper that tumbles`],
        ['sparks', say`sparks that die`],
      ],
    },
    { is: 'number', label: say`In a second`, unit: '', of: 'rate', min: 1, max: 400, step: 5, digits: 0 },
    { is: 'number', label: say`Each seen for`, unit: say`frames`, of: 'lasts', min: 2, max: 250, step: 5, digits: 0 },
    { is: 'number', label: say`Size, of the height`, unit: '%', of: 'size', min: 0.2, max: 20, step: 0.5, digits: 1 },
    { is: 'number', label: say`Speed, of the height`, unit: '%/s', of: 'speed', min: 0, max: 400, step: 5, digits: 0 },
    { is: 'number', label: say`From, across`, unit: '%', of: 'x', min: -50, max: 150, step: 5, digits: 0 },
    { is: 'number', label: say`From, down`, unit: '%', of: 'y', min: -50, max: 150, step: 5, digits: 0 },
    { is: 'number', label: say`Over a width of`, unit: '%', of: 'spread', min: 0, max: 200, step: 5, digits: 0 },
    { is: 'number', label: say`Way (0 down, 180 up)`, unit: '°', of: 'angle', min: -360, max: 360, step: 15, digits: 0 },
    { is: 'number', label: say`Strays by`, unit: '°', of: 'stray', min: 0, max: 180, step: 5, digits: 0 },
    { is: 'number', label: say`Falls by`, unit: '%/s²', of: 'fall', min: -400, max: 400, step: 5, digits: 0 },
    { is: 'number', label: say`Seed`, unit: '', of: 'seed', min: 0, max: 9999, step: 1, digits: 0 },
  ],
  endless: false,
  describe: (context, source) => overFrame(context, { ...source, frame: context.run.frames }),
  requests: () => [],
  stills: () => [],
  make: (source, { width, height }) => {
    const { rgba, alpha } = drawn(source, width, height);
    return { ...fromRgba(rgba, width, height), alpha };
  },
};
