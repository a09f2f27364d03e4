import { keyAt, type Layer, plainLayer, plainMask, remapKeyAt, type SeamKeyframe, seamMask, still } from '../layer';
import type { Easing } from '../motion';
import type { Move } from '../moves';
import type { Anchor } from '../time';
import { say } from '../words';

/** A shot as versions 4 to 6 kept it: two takes and how they are mixed. */
interface OldShot {
  id: string;
  name: string;
  start: Anchor;
  end: Anchor;
  before: { takeId: string; sync: number };
  after: { takeId: string; sync: number };
  overscan: number;
  mix: OldReveal | { kind: 'seam'; feather: number; stands: SeamKeyframe[] };
}
interface OldReveal {
  kind: 'curtain reveal';
  angle: number;
  start: Anchor;
  end: Anchor;
  feather: number;
  fallSpeed: number;
  line: { frame: number; value: number; easing: Easing }[];
  lineLength: number;
}

/** A shot of versions 4 to 6 as layers; what is not such a shot is given back for the validation to judge. */
export function layersFromMix(value: unknown, tapes: ReadonlyMap<string, number>): unknown {
  const old = value as OldShot;
  if (typeof old?.mix !== 'object' || !old.before || !old.after) return value;
  const { before, after, mix, ...rest } = old;
  const from = rest.start.beat;
  const here = ({ beat, offset }: Anchor): Anchor => ({ beat: beat - from, offset });
  const take = (id: string, name: string, use: OldShot['before'], remap: Layer['timeRemap'], more: Partial<Layer>) =>
    plainLayer(id, name, tapes.get(use.takeId) ?? 0, { kind: 'take', takeId: use.takeId }, remap, more);
  if (mix.kind === 'seam') {
    const remap = (sync: number) => [remapKeyAt(0, rest.start.offset, sync)];
    return {
      ...rest,
      layers: [
        take('before', say`Left of the seam`, before, remap(before.sync), {}),
        take('after', say`Right of the seam`, after, remap(after.sync), { masks: [seamMask(mix.stands, mix.feather)] }),
      ],
      move: null,
      hand: [],
    };
  }
  const [start, end] = [here(mix.start), here(mix.end)];
  const remap = (sync: number) => [remapKeyAt(start.beat, start.offset, sync, mix.fallSpeed), remapKeyAt(end.beat, end.offset, null, 1)];
  const lead = (sync: number) => [remapKeyAt(0, rest.start.offset, null, 1), ...remap(sync)];
  const line = mix.line.map((k) => {
    const share = k.frame / mix.lineLength;
    const [beat, offset] = [start.beat + share * (end.beat - start.beat), Math.round(start.offset + share * (end.offset - start.offset))];
    return keyAt(beat, offset, k.value, k.easing);
  });
  const half = still(mix.feather / 2);
  const mask = plainMask('line', 'line', { at: line, angle: still(mix.angle), inside: half, outside: half });
  const move: Move = {
    kind: 'reveal',
    by: 'line',
    angle: mix.angle,
    start,
    end,
    feather: mix.feather,
    fallSpeed: mix.fallSpeed,
    before,
    after,
    path: null,
    outOf: 'before',
    duck: 'nobody',
    reach: 15,
    silhouettes: [],
  };
  return {
    ...rest,
    layers: [
      take('before', say`Seen first`, before, lead(before.sync), { to: end }),
      take('after', say`Seen after`, after, lead(after.sync), { from: start, masks: [mask] }),
    ],
    move,
    hand: ['after.line.at'],
  };
}
