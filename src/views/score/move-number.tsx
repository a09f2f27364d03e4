'use client';
import type { Move, Project, Shot } from '@/core/shot';
import { NumberField } from '@/ui/parts';

export interface FieldsProps<M extends Move> {
  project: Project;
  shot: Shot;
  move: M;
  set: (label: string, next: Partial<M>) => void;
}

/** Names as a choice shows them. */
export const options = <T extends string>(names: readonly T[]) => names.map((n) => [n, n] as const);

type Numbers<M> = { [K in keyof M]: M[K] extends number ? K : never }[keyof M] & string;

/** A number of a move; whole where it has no digits and steps by one, a share shown as per cent where `percent`. */
export function MoveNumber<M extends Move>({
  label,
  unit,
  of,
  range: [min, max],
  step = 1,
  digits = 0,
  percent = false,
  said,
  move,
  set,
}: Pick<FieldsProps<M>, 'move' | 'set'> & {
  label: string;
  unit: string;
  of: Numbers<M>;
  range: [number, number];
  step?: number;
  digits?: number;
  percent?: boolean;
  said: string;
}) {
  const factor = percent ? 100 : 1;
  const change = (v: number) => set(said, { [of]: digits === 0 && !percent ? Math.round(v) : v / factor } as Partial<M>);
  return (
    <NumberField
      label={label}
      unit={unit}
      value={factor * (move[of] as number)}
      min={min}
      max={max}
      step={step}
      digits={digits}
      onChange={change}
    />
  );
}

/** The second of a take that meets a move's own instant. */
export function SyncField<U extends { sync: number }>({ label, use, onChange }: { label: string; use: U; onChange: (use: U) => void }) {
  return (
    <NumberField
      label={label}
      unit="s"
      value={use.sync}
      min={0}
      max={36000}
      step={0.04}
      digits={2}
      onChange={(sync) => onChange({ ...use, sync })}
    />
  );
}
