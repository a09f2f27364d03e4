import { type NumberKind, numberKind as number } from '../motion';
import { say } from '../words';

/** Numbers of a layer. Places in per cent of the frame's width and height from where the picture would lie; angles clockwise as seen. */
export const LAYER_NUMBERS = {
  x: number(say`Position across`, '%', -400, 400, 0),
  y: number(say`Position down`, '%', -400, 400, 0),
  scale: number('Scale', '%', 1, 1000, 100),
  turn: number('Turn', '°', -3600, 3600, 0),
  opacity: number('Opacity', '%', 0, 100, 100),
  pivotX: number(say`Pivot across`, '%', -100, 100, 0),
  pivotY: number(say`Pivot down`, '%', -100, 100, 0),
  speed: number('Speed', '%', -1600, 1600, 100),
} as const satisfies Record<string, NumberKind>;

export type LayerNumber = keyof typeof LAYER_NUMBERS;
export const LAYER_NUMBER_NAMES = Object.keys(LAYER_NUMBERS) as [LayerNumber, ...LayerNumber[]];

/** Numbers of masks; which of them a mask has depends on its kind. Softness in per cent of the frame's height. */
const MASK_NUMBERS = {
  at: number('Line', '%', -100, 200, 50),
  angle: number('Angle', '°', -360, 360, 0),
  x: number(say`Middle across`, '%', -100, 200, 50),
  y: number(say`Middle down`, '%', -100, 200, 50),
  width: number('Width', '%', 0, 500, 40),
  height: number('Height', '%', 0, 500, 40),
  turn: number('Turn', '°', -3600, 3600, 0),
  inside: number(say`Feather inside`, '%', 0, 100, 1),
  outside: number(say`Feather outside`, '%', 0, 100, 1),
  shift: number('Push', '%', -100, 100, 0),
  grow: number(say`Outline outward`, '%', -200, 200, 0, 0.5),
} as const satisfies Record<string, NumberKind>;

const MASK_HAS: Record<string, readonly (keyof typeof MASK_NUMBERS)[]> = {
  line: ['at', 'angle', 'inside', 'outside'],
  ellipse: ['x', 'y', 'width', 'height', 'turn', 'inside', 'outside'],
  rectangle: ['x', 'y', 'width', 'height', 'turn', 'inside', 'outside'],
  polygon: ['inside', 'outside'],
  outline: ['inside', 'outside'],
  seam: ['shift', 'outside'],
  matte: [],
  travelling: [],
  silhouette: ['grow', 'outside'],
};

/** Names of the numbers a mask of this kind has, without its points. */
const maskNumberNames = (kind: string): readonly string[] => MASK_HAS[kind] ?? [];

/** A mask's number by its name: one of its kind, or a point's place such as `x3` or `y3`. Null for a name it does not have. */
export function maskNumber(kind: string, name: string): NumberKind | null {
  if (maskNumberNames(kind).includes(name)) return MASK_NUMBERS[name as keyof typeof MASK_NUMBERS];
  const point = kind === 'polygon' || kind === 'outline' ? /^([xy])(\d{1,3})$/.exec(name) : null;
  return point && number(say`Point ${Number(point[2]) + 1} ${point[1] === 'x' ? 'across' : 'down'}`, '%', -100, 200, 50);
}
