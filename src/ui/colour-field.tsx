'use client';

type Rgb = readonly [r: number, g: number, b: number];

const hexOf = (values: readonly number[]) =>
  `#${values
    .map((v) =>
      Math.round(255 * v)
        .toString(16)
        .padStart(2, '0'),
    )
    .join('')}`;
const ofHex = (hex: string) =>
  [1, 3, 5].map((at) => Math.round((1000 * Number.parseInt(hex.slice(at, at + 2), 16)) / 255) / 1000) as unknown as Rgb;

/** A colour by the browser's own chooser; R'G'B' 0 to 1. */
export function ColourField({ label, value, onChange }: { label: string; value: readonly number[]; onChange: (rgb: Rgb) => void }) {
  return (
    <label className="flex min-h-11 items-center gap-2 text-sm text-faint sm:min-h-9">
      {label}
      <input
        type="color"
        className="h-11 w-16 cursor-pointer rounded-md border border-rule bg-sheet sm:h-9"
        value={hexOf(value)}
        onChange={(e) => onChange(ofHex(e.target.value))}
      />
    </label>
  );
}
