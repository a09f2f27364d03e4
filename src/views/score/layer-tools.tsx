'use client';
import { useEffect, useRef, useState } from 'react';
import { footageName, footageOf, type Project, type Shot } from '@/core/document';
import { takesOf } from '@/core/edit';
import type { Layer } from '@/core/layer';
import { SOURCES, type Source } from '@/core/sources';
import { say } from '@/core/words';
import { plateIsOld, renewPlate } from '@/data/kept';
import { addDuck, addFreshLayer, addMeasuredMask, addPatch, addTakeLayer, MEASURED, type Measured, takeBelow } from '@/data/masks';
import { addFrameLayer, addPictureFiles } from '@/data/picture-files';
import { Button, Note, Working } from '@/ui/controls';
import { SelectField } from '@/ui/value-field';
import { useDoing } from './use-doing';

const MEASURED_NAMES: Record<Measured, string> = {
  silhouette: say`the performer’s outline, over time`,
  'cut-out': say`the performer at the playhead`,
  'cut-out over time': say`the performer, cut out over time`,
  seam: say`the seam to the take below`,
};

/** Masks that are measured in the layer's take. */
export function MeasureMask({ shot, layer }: { shot: Shot; layer: Layer }) {
  const { doing, said, start } = useDoing();
  return (
    <>
      {doing !== null ? (
        <Working text={say`Reading the takes`} done={doing} />
      ) : (
        <SelectField
          label={say`Mask by what is measured`}
          value=""
          options={[['', say`Choose what`], ...MEASURED.map((m) => [m, MEASURED_NAMES[m]] as const)]}
          onChange={(kind) => kind && start((tell) => addMeasuredMask(shot.id, layer.id, kind as Measured, tell))}
        />
      )}
      {said && <Note level="unsure">{said}</Note>}
    </>
  );
}

/** A layer over a take ducks under whoever is in it. */
export function DuckUnder({ project, shot, layer }: { project: Project; shot: Shot; layer: Layer }) {
  const { doing, said, start } = useDoing();
  if (!takeBelow(shot, layer)) return null;
  return (
    <>
      {doing !== null ? (
        <Working text={say`Reading the take`} done={doing} />
      ) : (
        <Button onClick={() => start((tell) => addDuck(project, shot, layer, tell))}>{say`Duck under the performer below`}</Button>
      )}
      {said && <Note level="unsure">{said}</Note>}
    </>
  );
}

/** Sources that need nothing to begin with. */
const FRESH = SOURCES.filter((kind) => 'fresh' in kind && kind.fresh !== undefined);

/** One more layer on top: a take, the empty set as a patch, or what the application makes. */
export function AddLayer({ project, shot }: { project: Project; shot: Shot }) {
  const { doing, said, start } = useDoing();
  const file = useRef<HTMLInputElement>(null);
  const add = (what: string) => {
    if (what === 'picture') return file.current?.click();
    if (what === 'frame') return start(() => addFrameLayer(project, shot.id));
    if (what === 'patch') start((tell) => addPatch(project, shot, tell));
    else if (FRESH.some(({ kind }) => kind === what)) addFreshLayer(shot.id, what as Source['kind']);
    else if (what) addTakeLayer(project, shot.id, what, footageOf(project, what).from);
  };
  return (
    <>
      {doing !== null ? (
        <Working text={say`Making the layer`} done={doing} />
      ) : (
        <SelectField
          label={say`Add a layer`}
          value=""
          options={[
            ['', say`Choose what`],
            ['patch', say`a patch of the empty set`],
            ['picture', say`a picture from a file`],
            ['frame', say`this frame as a picture`],
            ...FRESH.map(({ kind, name }) => [kind, name] as const),
            ...project.takes.map((t) => [t.id, footageName(footageOf(project, t.id))] as const),
          ]}
          onChange={add}
        />
      )}
      <input
        ref={file}
        type="file"
        multiple
        accept="image/*,.png,.jpg,.jpeg,.webp,.avif,.gif,.svg"
        className="hidden"
        aria-label={say`A picture from a file`}
        data-testid="picture-file"
        onChange={(e) => {
          const chosen = [...(e.target.files ?? [])];
          e.target.value = '';
          if (chosen.length) start((tell) => addPictureFiles(project, shot.id, chosen, tell));
        }}
      />
      {said && <Note level="unsure">{said}</Note>}
    </>
  );
}

/** What is to be known of a layer that shows the empty set: whether plates were taken in after it was made, and a way to make it anew. */
export function PlateAge({ project, shot, mediaId }: { project: Project; shot: Shot; mediaId: string }) {
  const { doing, said, start } = useDoing();
  const [old, setOld] = useState(false);
  const [takeId] = takesOf(shot);
  useEffect(() => {
    let wanted = true;
    if (takeId)
      void plateIsOld(project, mediaId, takeId)
        .catch(() => false)
        .then((is) => wanted && setOld(is));
    return () => {
      wanted = false;
    };
  }, [project, mediaId, takeId]);
  if (doing !== null) return <Working text={say`Making the empty set`} done={doing} />;
  return (
    <>
      {old && takeId && (
        <div className="space-y-1">
          <Note level="unsure">{say`The takes it was made from are not those of the set-up now.`}</Note>
          <Button onClick={() => start((tell) => renewPlate(project, mediaId, takeId, tell))}>{say`Make the empty set anew`}</Button>
        </div>
      )}
      {said && <Note level="unsure">{said}</Note>}
    </>
  );
}
