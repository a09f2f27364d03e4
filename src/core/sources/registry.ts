import * as z from 'zod/mini';
import { say } from '../words';
import { below } from './below';
import { colour } from './colour';
import { dust } from './dust';
import { echo } from './echo';
import { gradient } from './gradient';
import type { NestedPicture, SourceKind } from './kind';
import { lightLeak } from './light-leak';
import { picture } from './picture';
import { pieces } from './pieces';
import { rays } from './rays';
import { shot } from './shot';
import { still } from './still';
import { stripes } from './stripes';
import { take } from './take';
import { title } from './title';

/** Every kind of source a layer can show. */
export const SOURCES = [take, shot, still, picture, title, colour, gradient, lightLeak, rays, dust, stripes, pieces, below, echo] as const;

/** What a layer shows, as the document keeps it. */
export type Source = z.infer<(typeof SOURCES)[number]['schema']>;
/** What a layer shows at a frame, with all times resolved; plain data. */
export type SourceDescription = NonNullable<ReturnType<(typeof SOURCES)[number]['describe']>>['source'];

export const sourceSchema = z.discriminatedUnion(
  'kind',
  SOURCES.map(({ schema }) => schema) as unknown as readonly [z.core.$ZodTypeDiscriminable],
) as unknown as z.ZodMiniType<Source>;

type AnyKind = SourceKind<Source, SourceDescription>;

/** What is known of the kind of source that a layer keeps or describes. */
export function sourceKind({ kind }: { kind: Source['kind'] }): AnyKind {
  const known = SOURCES.find((k) => k.kind === kind);
  if (!known) throw new Error(say`There is no source of the kind “${kind}”.`);
  return known as unknown as AnyKind;
}

/** The picture within what a layer shows; null where there is none. */
export const nestedIn = (source: SourceDescription): NestedPicture | null => sourceKind(source).within?.(source) ?? null;
