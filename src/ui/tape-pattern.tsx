import { tapeColour } from './tape';

/** SVG patterns of the twelve tapes, once for a drawing; fill with `tapeFill(index)`. `size` is the weave's width in the drawing's units. */
export function TapePatterns({ size }: { size: number }) {
  const light = 'rgba(255,250,240,0.42)';
  return (
    <defs>
      {Array.from({ length: 12 }, (_, i) => (
        <pattern
          key={i}
          id={`tape-${i}`}
          width={size}
          height={size}
          patternUnits="userSpaceOnUse"
          patternTransform={i % 4 === 1 ? 'rotate(45)' : undefined}
        >
          <rect width={size} height={size} fill={tapeColour(i)} />
          {i % 4 === 1 && <rect width={size * 0.4} height={size} fill={light} />}
          {i % 4 === 2 && <circle cx={size / 2} cy={size / 2} r={size * 0.22} fill={light} />}
          {i % 4 === 3 && (
            <>
              <rect width={size / 2} height={size} fill={light} />
              <rect width={size} height={size / 2} fill={light} />
            </>
          )}
        </pattern>
      ))}
    </defs>
  );
}

export const tapeFill = (index: number) => `url(#tape-${index % 12})`;
