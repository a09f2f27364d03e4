import * as z from 'zod/mini';
import { blackPlanes } from '../picture';
import { randomAt } from '../room';
import { say } from '../words';
import type { SourceKind } from './kind';
import { type Moving, overFrame, within } from './made';

const schema = z.object({
  kind: z.literal('dust'),
  specks: within(0, 500),
  scratches: within(0, 50),
  /** How many frames the same ones are seen. */
  every: within(1, 25),
  seed: within(0, 9999),
});
type Dust = z.infer<typeof schema>;

/** Bright specks and upright scratches on black, new every few frames, to be laid over by screen; the same film has the same ones. */
export const dust: SourceKind<Dust, Moving<Dust>> = {
  kind: 'dust',
  schema,
  name: say`Dust and scratches`,
  fresh: { kind: 'dust', specks: 14, scratches: 2, every: 1, seed: 1 },
  blend: 'screen',
  settings: [
    { is: 'number', label: say`Specks`, unit: '', of: 'specks', min: 0, max: 500, step: 1, digits: 0 },
    { is: 'number', label: say`Scratches`, unit: '', of: 'scratches', min: 0, max: 50, step: 1, digits: 0 },
    { is: 'number', label: say`New every`, unit: say`frames`, of: 'every', min: 1, max: 25, step: 1, digits: 0 },
    { is: 'number', label: say`Seed`, unit: '', of: 'seed', min: 0, max: 9999, step: 1, digits: 0 },
  ],
  endless: false,
  describe: (context, source) => overFrame(context, { ...source, frame: Math.floor(context.run.frames / source.every) }),
  requests: () => [],
  stills: () => [],
  make: ({ specks, scratches, seed, frame }, { width, height }) => {
    const out = blackPlanes(width, height);
    const random = randomAt(seed, frame);
    const brighten = (x: number, y: number, light: number) => {
      if (x < 0 || y < 0 || x >= width || y >= height) return;
      const at = y * width + x;
      out.y[at] = Math.min(235, Math.max(out.y[at], 16 + 219 * light));
    };
    for (let k = 0; k < specks; k++) {
      const [cx, cy, light] = [random() * width, random() * height, 0.4 + 0.6 * random()];
      const [wide, tall] = [(0.5 + 2.5 * random()) * (height / 360), (0.5 + 2.5 * random()) * (height / 360)];
      for (let y = Math.floor(cy - tall); y <= cy + tall; y++)
        for (let x = Math.floor(cx - wide); x <= cx + wide; x++) {
          const off = ((x - cx) / wide) ** 2 + ((y - cy) / tall) ** 2;
          if (off < 1) brighten(x, y, light * (1 - off));
        }
    }
    for (let k = 0; k < scratches; k++) {
      let x = random() * width;
      const [from, long, light] = [random() * height * 0.6, height * (0.2 + 0.8 * random()), 0.25 + 0.5 * random()];
      for (let y = Math.floor(from); y < Math.min(height, from + long); y++) {
        x += (random() - 0.5) * 0.3;
        brighten(Math.round(x), y, light * (0.7 + 0.3 * random()));
      }
    }
    return out;
  },
};
