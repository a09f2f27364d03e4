import type { Place } from '../layer';
import type { Percent, Seconds } from '../units';
import { say } from '../words';
import type { FactId, Facts } from './facts';

type KeysOf<M, T> = { [K in keyof M]-?: M[K] extends T ? K : never }[keyof M] & string;
/** Where somebody is in a take, per cent of its picture, at seconds of its file. */
export type Course = { source: Seconds; x: Percent; y: Percent }[];

/** A number as it is typed: steps and digits are one and none where not given. */
interface Typed {
  label: string;
  unit: string;
  min: number;
  max: number;
  step?: number;
  digits?: number;
}
/** `said` is how the edit is called in the history; `when` says for which moves the field is there. */
interface Changes<M> {
  said: string;
  when?: (move: M) => boolean;
}
/** A number, choice or tick kept in presets, unless `preset` is false. */
interface Preset {
  preset?: false;
}

/** A number of a move: as it is kept times `factor` is what is typed. `even` keeps it even, as a count of frames around a middle. */
export type NumberField<M> = Typed & Changes<M> & Preset & { is: 'number'; of: KeysOf<M, number>; factor?: number; even?: true };
/** A number that lies deeper in a move, or is typed otherwise than it is kept. */
export type ReadingField<M> = Typed &
  Changes<M> & {
    is: 'reading';
    get(move: M): number;
    set(move: M, value: number): Partial<M>;
    /** What of the move is kept in presets for it. */
    preset?: keyof M & string;
  };
/** Bar, beat and frames. */
export type PlaceField<M> = Changes<M> & { is: 'place'; label: string; get(move: M): Place; set(move: M, place: Place): Partial<M> };
/** The second of a take that meets the move's own instant. */
export type SecondField<M> = Changes<M> & { is: 'second'; label: string; get(move: M): Seconds; set(move: M, second: Seconds): Partial<M> };
export type ChoiceField<M> = Changes<M> &
  Preset & { is: 'choice'; label: string; of: KeysOf<M, string>; options: readonly Option[] | ((move: M) => readonly Option[]) };
export type Option = readonly [value: string, text: string];
/** Words of a move. */
export type TextField<M> = Changes<M> & Preset & { is: 'text'; label: string; of: KeysOf<M, string>; max: number; lines?: true };
export type TickField<M> = Changes<M> & Preset & { is: 'tick'; label: string; of: KeysOf<M, boolean> };
/** Whether the performer is followed: found in the take when it is first asked for. */
export type TrackField<M> = Changes<M> & {
  is: 'track';
  label: string;
  take(move: M): string;
  get(move: M): Course | null;
  set(move: M, track: Course | null): Partial<M>;
};
/** Another shot of the film, or null for the take. */
export type ShotField<M> = Changes<M> & {
  is: 'shot';
  label: string;
  get(move: M): string | null;
  set(move: M, shotId: string | null): Partial<M>;
};
/** A press that changes the move. */
export type ActionField<M> = Changes<M> & { is: 'action'; label: string; apply(move: M): Partial<M> };
/** A press that has something measured in the move's takes first. What it gives is said; without a change nothing is done. */
export type MeasureField<M, Fact extends FactId = FactId> = Changes<M> & {
  is: 'measure';
  label: string;
  needs: Fact;
  takes(move: M): readonly string[];
  /** Which way what falls is looked for, degrees. */
  angle?(move: M): number;
  /** The seconds at which somebody is cut out of its takes. */
  seconds?(move: M): readonly Seconds[];
  apply(move: M, facts: Pick<Facts, Fact>): { change: Partial<M> | null; said: string };
};
/** Items one after another, each with fields of its own. */
export type ListField<M, Item = unknown> = Changes<M> & {
  is: 'list';
  /** What one is called. */
  label: string;
  get(move: M): readonly Item[];
  set(move: M, items: readonly Item[]): Partial<M>;
  fields: readonly Field<Item>[];
  min: number;
  max: number;
  /** What one more would be; none can be added where it is not given. */
  more?: { label: string; make(move: M): Item };
  /** Whether any of them can be left out, or the last. */
  fewer: 'any' | 'last' | 'none';
};

/** One thing that is typed, chosen or pressed in the form of a move. */
export type Field<M> =
  | NumberField<M>
  | ReadingField<M>
  | PlaceField<M>
  | SecondField<M>
  | ChoiceField<M>
  | TickField<M>
  | TextField<M>
  | TrackField<M>
  | ShotField<M>
  | ActionField<M>
  | MeasureField<M>
  | ListField<M>;

/** A place of a move by its name. */
export const placeField = <M>(key: KeysOf<M, Place>, label: string, said: string): PlaceField<M> => ({
  is: 'place',
  label,
  said,
  get: (move) => move[key] as Place,
  set: (_, place) => ({ [key]: place }) as Partial<M>,
});

/** The second of a take that a move uses, by its name. */
export const secondField = <M>(key: KeysOf<M, { takeId: string; sync: Seconds }>, label: string): SecondField<M> => ({
  is: 'second',
  label,
  said: say`Slide the take`,
  get: (move) => (move[key] as { sync: Seconds }).sync,
  set: (move, sync) => ({ [key]: { ...(move[key] as object), sync } }) as Partial<M>,
});

/** How far a move's shake goes, in steps of so many per cent. */
export const shakeSizeField = <M extends { shakeSize: number }>(step: number): NumberField<M> => ({
  is: 'number',
  label: say`Size of the shake`,
  unit: '%',
  of: 'shakeSize' as KeysOf<M, number>,
  min: 0,
  max: 20,
  step,
  digits: 2,
  said: say`Change the shake`,
});

/** How many beats lie from one of a move's parts to the next. */
export const everyField = <M extends { every: number }>(label: string, said: string): NumberField<M> => ({
  is: 'number',
  label,
  unit: say`beats`,
  of: 'every' as KeysOf<M, number>,
  min: 0.25,
  max: 16,
  step: 0.25,
  digits: 2,
  said,
});

/** A list with the type of its items known while it is written down. */
export const listField = <M, Item>(field: Omit<ListField<M, Item>, 'is'>): ListField<M> => ({ is: 'list', ...field }) as ListField<M>;

/** Names as a choice shows them. */
export const optionsOf = (names: readonly string[]): Option[] => names.map((n) => [n, n]);
