import { useLiveQuery } from 'dexie-react-hooks';
import { useState } from 'react';
import type { Project, Shot } from '@/core/document';
import type { Layer } from '@/core/layer';
import { say } from '@/core/words';
import { db } from '@/data/db';
import { forgetLook, keepLook, LOOKS_KEY, layLook, readLooks } from '@/data/looks';
import { useProject } from '@/data/store';
import { Button, Note, Working } from '@/ui/controls';
import { KeepAs } from './keep-as';
import { useDoing } from './use-doing';

/** Effects kept under a name with a picture of what they do; one is laid on the layer by a press. */
export function KeptLooks({ project, shot, layer }: { project: Project; shot: Shot; layer: Layer }) {
  const kept = readLooks(useLiveQuery(() => db.settings.get(LOOKS_KEY))?.value);
  const { doing, said, start } = useDoing();
  const [missing, setMissing] = useState('');
  const keep = async (name: string) => {
    const { playhead } = useProject.getState();
    start(() => keepLook(project, playhead, name, layer.effects));
  };
  return (
    <details>
      <summary className="flex min-h-11 cursor-pointer items-center sm:min-h-8">
        {say`Kept looks`}
        {kept.length > 0 && ` (${kept.length})`}
      </summary>
      <div className="space-y-2">
        {kept.length === 0 && (
          <p className="text-sm text-faint">{say`None yet. Effects of a layer, kept under a name, can be laid on any other.`}</p>
        )}
        <ul className="grid grid-cols-2 gap-2" aria-label={say`Kept looks`}>
          {kept.map((look) => (
            <li key={look.name}>
              <button
                type="button"
                className="block w-full overflow-hidden rounded-md border border-rule bg-sheet text-left"
                onClick={() => setMissing(layLook(project, shot.id, layer.id, look))}
              >
                {look.picture && <img src={look.picture} alt="" className="aspect-video w-full bg-well object-contain" />}
                <span className="block min-h-8 px-2 py-1 text-sm">{look.name}</span>
              </button>
              <Button
                kind="quiet"
                className="text-sm text-mark"
                onClick={() => void forgetLook(look.name)}
                aria-label={say`Forget the look ${look.name}`}
              >
                {say`Forget`}
              </Button>
            </li>
          ))}
        </ul>
        {layer.effects.length > 0 && <KeepAs label={say`Keep these effects as`} disabled={doing !== null} onKeep={keep} />}
        {doing !== null && <Working text={say`Making its picture`} done={doing} />}
        {(said || missing) && <Note level="unsure">{said || missing}</Note>}
      </div>
    </details>
  );
}
