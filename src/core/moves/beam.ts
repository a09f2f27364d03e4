import * as z from 'zod/mini';
import { anchorSchema, finite, type Layer, type Mask, placeFrame, plainMask, remapKeyAt, still } from '../layer';
import { beatsPerBarAt } from '../time';
import { say } from '../words';
import { type Field, placeField, secondField } from './fields';
import { anchorAt, chosen, type MoveContext, type MoveKind, type Problem, type Proposal, type ProposeContext, takeUseSchema } from './kind';
import { effect, keysAt } from './parts';
import { frames as inFrames, middleOf, onBeat, stretchAround } from './spans';

const share = finite.check(z.gte(0), z.lte(1));
const place = finite.check(z.gte(-50), z.lte(150));
const beamSchema = z.object({
  kind: z.literal('beam'),
  use: takeUseSchema,
  /** It has reached its end on this beat. */
  at: anchorSchema,
  fromX: place,
  fromY: place,
  toX: place,
  toY: place,
  /** Frame heights a second at which it is drawn; width, per cent of the height. */
  speed: finite.check(z.gte(0.1), z.lte(40)),
  width: finite.check(z.gte(0.1), z.lte(30)),
  glow: finite.check(z.gte(0), z.lte(300)),
  r: share,
  g: share,
  b: share,
  /** Frames it stays whole, and in which it is gone after that. */
  stays: z.int().check(z.gte(0), z.lte(500)),
  fades: z.int().check(z.gte(1), z.lte(250)),
});
export type Beam = z.infer<typeof beamSchema>;

/** Its length in heights of the frame, and how it is turned: degrees from level. */
function lie({ fromX, fromY, toX, toY }: Beam, { width, height }: { width: number; height: number }) {
  const [dx, dy] = [((toX - fromX) / 100) * width, ((toY - fromY) / 100) * height];
  return { length: Math.hypot(dx, dy) / height, turn: (Math.atan2(dy, dx) * 180) / Math.PI };
}
const drawnIn = (move: Beam, context: MoveContext) =>
  Math.max(1, Math.round((lie(move, context.frame).length / move.speed) * (context.scene.rate.num / context.scene.rate.den)));

/** A take with a line of light drawn over it from one place to another, which stays and goes. */
function layersOf(context: MoveContext, move: Beam): Layer[] {
  const { take, made, frame } = context;
  const { use, at, fromX, fromY, toX, toY, width, glow, r, g, b, stays, fades } = move;
  const { length, turn } = lie(move, frame);
  const whole = (100 * length * frame.height) / frame.width;
  const drawn = drawnIn(move, context);
  const mask = plainMask('line', 'rectangle', {
    x: keysAt(at, [
      [-drawn, fromX],
      [0, (fromX + toX) / 2],
    ]),
    y: keysAt(at, [
      [-drawn, fromY],
      [0, (fromY + toY) / 2],
    ]),
    width: keysAt(at, [
      [-drawn, 0],
      [0, whole],
    ]),
    height: still(width),
    turn: still(turn),
    inside: still(width / 3),
    outside: still(width / 6),
  });
  /** Light within a mask, from the line's first frame until it has faded from so much. */
  const light = (id: string, name: string, opacity: number, within: Mask, effects: Layer['effects']) =>
    made(
      id,
      name,
      { kind: 'colour', r, g, b },
      {
        blend: 'screen',
        from: { beat: at.beat, offset: at.offset - drawn },
        to: { beat: at.beat, offset: at.offset + stays + fades },
        masks: [within],
        effects,
        numbers: {
          opacity: keysAt(at, [
            [stays, opacity],
            [stays + fades, 0],
          ]),
        },
      },
    );
  const wide: Mask = { ...mask, id: 'wide', numbers: { ...mask.numbers, inside: still(0), outside: still(3 * width) } };
  return [
    take('take', say`The take`, use.takeId, [remapKeyAt(at.beat, at.offset, use.sync)], {}),
    light('light', 'Light', 100, mask, []),
    ...(glow > 0 ? [light('around', 'Glow', 60, wide, [effect('exposure', { amount: Math.log2(Math.max(0.05, glow / 300)) })])] : []),
  ];
}

function problemsOf(context: MoveContext, move: Beam): Problem<Beam>[] {
  const { scene, frame } = context;
  const room = placeFrame(scene, move.at) - scene.first;
  const drawn = drawnIn(move, context);
  if (room >= drawn) return [];
  const least = Math.ceil((10 * lie(move, frame).length * (scene.rate.num / scene.rate.den)) / Math.max(1, room)) / 10;
  return [
    {
      text: say`At ${move.speed.toFixed(1)} heights a second the line takes ${inFrames(drawn)}, and there are ${Math.max(0, room)} before its beat.`,
      nearest: room > 0 && least <= 40 ? { label: say`Draw it at ${least.toFixed(1)}`, move: { ...move, speed: least } } : null,
    },
  ];
}

/** From the left to the right across the middle, there on the beat. */
function propose(context: ProposeContext): Proposal<Beam> {
  const { map, beat, takes } = context;
  const [{ takeId, footage }] = takes;
  const bar = beatsPerBarAt(map, beat);
  const sync = middleOf(footage);
  const { lead, tail } = stretchAround(context, footage, sync, 1, bar);
  return {
    lead: Math.max(1, Math.min(2, lead)),
    tail,
    move: {
      kind: 'beam',
      use: { takeId, sync },
      at: onBeat(Math.max(1, Math.min(2, lead))),
      fromX: 5,
      fromY: 70,
      toX: 95,
      toY: 30,
      speed: 6,
      width: 1,
      glow: 150,
      r: 1,
      g: 0.85,
      b: 0.6,
      stays: 6,
      fades: 10,
    },
    said: '',
  };
}

const at = (label: string, of: 'fromX' | 'fromY' | 'toX' | 'toY'): Field<Beam> => ({
  is: 'number',
  label,
  unit: '%',
  of,
  min: -50,
  max: 150,
  said: say`Move the line`,
});
const light = (label: string, of: 'r' | 'g' | 'b'): Field<Beam> => ({
  is: 'number',
  label,
  unit: '%',
  of,
  factor: 100,
  min: 0,
  max: 100,
  said: say`Colour the line`,
});

const FIELDS: readonly Field<Beam>[] = [
  placeField('at', say`There on`, say`Move the line`),
  at(say`From across`, 'fromX'),
  at(say`From down`, 'fromY'),
  at(say`To across`, 'toX'),
  at(say`To down`, 'toY'),
  { is: 'number', label: say`Heights a second`, unit: '', of: 'speed', min: 0.1, max: 40, step: 0.5, digits: 1, said: say`Draw it faster` },
  { is: 'number', label: say`Width`, unit: '%', of: 'width', min: 0.1, max: 30, step: 0.1, digits: 1, said: say`Change the line` },
  { is: 'number', label: say`Glow`, unit: '%', of: 'glow', min: 0, max: 300, step: 10, said: say`Change the glow` },
  light('Red', 'r'),
  light('Green', 'g'),
  light('Blue', 'b'),
  { is: 'number', label: say`Stays`, unit: 'f', of: 'stays', min: 0, max: 500, said: say`Keep the line` },
  { is: 'number', label: say`Fades in`, unit: 'f', of: 'fades', min: 1, max: 250, said: say`Fade the line` },
  secondField('use', say`Take on the beat`),
];

/** A line of light that is drawn. */
export const beam: MoveKind<Beam, never> = {
  kind: 'beam',
  schema: beamSchema,
  words: {
    name: say`Beam`,
    working: say`Laying the line of light`,
    about: say`A line of light is drawn across the picture at a speed, there on the beat, and fades.`,
  },
  takes: { min: 1, max: 1 },
  needs: [],
  mixes: false,
  propose,
  layers: layersOf,
  problems: problemsOf,
  anchors: [anchorAt('at', say`line of light`)],
  withTakes: (move, choose) => ({ ...move, use: chosen(move.use, choose) }),
  sounds: (_, { at }) => [{ sound: 'whoosh', at, seconds: 0.5 }],
  poster: ({ scene }, { at: there }) => placeFrame(scene, there),
  fields: FIELDS,
};
