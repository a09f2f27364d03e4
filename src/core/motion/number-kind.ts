/** One number that can be keyed: what it is called, its unit, range and what it is where nothing is said. */
export interface NumberKind {
  label: string;
  unit: string;
  min: number;
  max: number;
  step: number;
  digits: number;
  otherwise: number;
}

export const numberKind = (label: string, unit: string, min: number, max: number, otherwise: number, step = 1, digits = 1): NumberKind => ({
  label,
  unit,
  min,
  max,
  step,
  digits,
  otherwise,
});
