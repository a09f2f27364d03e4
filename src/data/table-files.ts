import type { Media, Project } from '@/core/document';
import { readCube } from '@/core/exchange';
import { say } from '@/core/words';
import { keepFile } from './keep-file';
import { changeShot } from './shots';

/** Longest text that is read as a colour table: one of 129 entries a side, written at length. */
const LONGEST = 120e6;

/** The colour table that an effect goes by; null for none. */
export function chooseTable(
  shotId: string,
  layerId: string,
  effectId: string,
  tableId: string | null,
  media: Media[] = [],
  of?: string,
): void {
  changeShot(
    shotId,
    say`Choose a colour table`,
    (shot) => ({
      ...shot,
      layers: shot.layers.map((layer) =>
        layer.id === layerId
          ? {
              ...layer,
              effects: layer.effects.map(({ tableId: before, ...effect }) =>
                effect.id === effectId ? { ...effect, ...(tableId && { tableId }) } : { ...effect, ...(before && { tableId: before }) },
              ),
            }
          : layer,
      ),
    }),
    media,
    of,
  );
}

/** A colour table from a file, kept with the project and used by an effect. Throws a sentence where it cannot be read. */
export async function takeTable(project: Project, shotId: string, layerId: string, effectId: string, file: File): Promise<void> {
  if (file.size > LONGEST) throw new Error(say`“${file.name}” is too long for a colour table.`);
  const read = readCube(await file.text());
  if (!read.ok) throw new Error(say`“${file.name}” cannot be read as a colour table (.cube). ${read.reason}`);
  const { kind, side } = read.cube;
  const more = { kind: 'colour table', type: file.type || 'text/plain', codec: say`${kind}, ${side} a side` } as const;
  const media = await keepFile(file, file.name, more);
  chooseTable(shotId, layerId, effectId, media.id, [media], project.id);
}
