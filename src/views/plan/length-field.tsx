'use client';
import type { ReactNode } from 'react';
import type { Project } from '@/core/document';
import { type LengthUnit, type PlannedShot, readLength, showLength } from '@/core/plan';
import { say } from '@/core/words';
import { ValueField } from '@/ui/value-field';

/** What the fields of a plan look at. */
export interface FieldsProps {
  project: Project;
  plan: PlannedShot;
}

/** Fields that fold away under a title. */
export function Group({ title, open, children }: { title: string; open?: boolean; children: ReactNode }) {
  return (
    <details open={open} className="border-t border-rule pt-2">
      <summary className="flex min-h-11 cursor-pointer items-center text-lg font-semibold sm:min-h-9">{title}</summary>
      <div className="mt-1 grid grid-cols-2 gap-3 sm:grid-cols-3">{children}</div>
    </details>
  );
}

/** A length in the user's unit; arrow keys go by 5 cm or two inches. */
export function LengthField({
  label,
  value,
  unit,
  min,
  max,
  onChange,
}: {
  label: string;
  value: number;
  unit: LengthUnit;
  min: number;
  max: number;
  onChange: (v: number) => void;
}) {
  const limit = (v: number) => Math.min(max, Math.max(min, v));
  return (
    <ValueField
      label={label}
      shown={showLength(value, unit)}
      read={(text) => {
        const read = readLength(text, unit);
        return read === null || read < min - 1e-9 || read > max + 1e-9 ? null : read;
      }}
      example={say`${showLength(limit(2.4), unit)} (${showLength(min, unit)} to ${showLength(max, unit)})`}
      onChange={onChange}
      nudge={(d) => limit(value + d * (unit === 'metres' ? 0.05 : 0.0508))}
    />
  );
}
