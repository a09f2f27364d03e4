import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { projectSchema } from '@/core/document';
import { EFFECTS } from '@/core/effects';
import { SOURCES } from '@/core/sources';

/** All that the screens are made of. */
const SCREENS = readdirSync(import.meta.dirname, { recursive: true, encoding: 'utf8' })
  .filter((name) => /\.tsx?$/.test(name) && !name.includes('.test.'))
  .map((name) => readFileSync(join(import.meta.dirname, name), 'utf8'))
  .join('\n');

interface Def {
  type: string;
  shape?: Record<string, unknown>;
  element?: unknown;
  innerType?: unknown;
  options?: unknown[];
  valueType?: unknown;
}
const defOf = (schema: unknown) => (schema as { _zod: { def: Def } })._zod.def;

/** Every property that a schema can hold, by its name, with the way that leads to it. */
function* properties(schema: unknown, way: string, seen = new Set<unknown>()): Generator<[string, string]> {
  if (seen.has(schema)) return;
  seen.add(schema);
  const { shape, element, innerType, options, valueType } = defOf(schema);
  for (const [name, inner] of Object.entries(shape ?? {})) {
    yield [name, `${way}.${name}`];
    yield* properties(inner, `${way}.${name}`, seen);
  }
  for (const inner of [element, innerType, valueType, ...(options ?? [])]) if (inner) yield* properties(inner, way, seen);
}

/** What nobody chooses: names of things, what a measure or a move wrote down, and what stands for something that has a control of another name. */
const WRITTEN = new Set([
  // Ids and what was worked out from what.
  ...[
    'id',
    'mediaId',
    'matteId',
    'silhouetteId',
    'shotId',
    'plateId',
    'referenceTakeId',
    'madeFrom',
    'madeBy',
    'overrides',
    'version',
    'kind',
  ],
  // Numbers of a form made from a move's fields, of a key, of a setting made from its kind: the forms are told from those.
  ...['beat', 'offset', 'value', 'easing', 'x1', 'x2', 'y1', 'y2', 'num', 'den'],
  // Measured.
  ...[
    'moves',
    'gains',
    'curves',
    'perspective',
    'moments',
    'keyframes',
    'points',
    'begins',
    'time',
    'dx',
    'dy',
    'rotation',
    'codec',
    'bytes',
    'type',
  ],
]);

/** Set through words of their own that lie in `data`. */
const SET_IN_DATA = ['take.cutAlong'];

describe('what the document can hold', () => {
  it('is named on the screens: every property of a shot, its layers, masks and effects, of takes, the song and its sound', () => {
    const parts = defOf(projectSchema).shape ?? {};
    const all = [
      ...properties(parts.shots, 'shot'),
      ...properties(parts.takes, 'take'),
      ...properties(parts.song, 'song'),
      ...properties(parts.sound, 'sound'),
    ];
    expect(all.length).toBeGreaterThan(120);
    // The forms of moves and the settings of sources are made from their kinds: the second test goes through those.
    const made = /^shot\.(move|layers\.source)\./;
    const silent = all.filter(([name, way]) => !WRITTEN.has(name) && !made.test(way) && !new RegExp(`\\b${name}\\b`).test(SCREENS));
    expect(silent.map(([, way]) => way)).toEqual(SET_IN_DATA);
  });

  it('each number of an effect and each setting of a source has a label of its own', () => {
    for (const { kind, numbers } of EFFECTS) {
      const labels = Object.values(numbers).map((n) => n.label);
      expect([kind, new Set(labels).size]).toEqual([kind, labels.length]);
      for (const label of labels) expect(label.trim()).toMatch(/^\S.*\S$/);
    }
    for (const { kind, schema, settings } of SOURCES) {
      const kept = Object.keys(defOf(schema).shape ?? {}).filter((name) => !WRITTEN.has(name));
      const settable = settings.flatMap((s) =>
        s.is === 'colour' ? [...(s.of ?? ['r', 'g', 'b'])] : s.is === 'font' ? [s.of, s.file] : [s.of],
      ) as string[];
      expect([kind, kept.filter((name) => !settable.includes(name) && !['takeId', 'seed'].includes(name))]).toEqual([kind, []]);
    }
  });
});
