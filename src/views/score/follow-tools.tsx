'use client';
import { useState } from 'react';
import { footageName, footageOf, type Project, type Shot, type Take } from '@/core/document';
import type { HoldAt } from '@/core/edit';
import type { Layer } from '@/core/layer';
import { say } from '@/core/words';
import { attachTo, CAMERA, holdInLayer, shakeLike } from '@/data/follow';
import { useProject } from '@/data/store';
import { Note, Tick, Working } from '@/ui/controls';
import { SelectField } from '@/ui/value-field';
import { useDoing } from './use-doing';

const takeOf = (project: Project, { source }: Layer): Take | undefined =>
  source.kind === 'take' ? project.takes.find((t) => t.id === source.takeId) : undefined;

/** Seconds over which a steadied camera's way is evened. */
const EVENED = 0.5;

/** Ways to keep a layer's picture still: its camera locked or smoothed, a point held. */
function holds(project: Project, layer: Layer, frame: number): { id: string; name: string; what: string; at: HoldAt }[] {
  const points = takeOf(project, layer)?.points ?? [];
  return [
    { id: 'lock', name: say`the camera: lock it`, what: CAMERA, at: { kind: 'stay', frame } },
    { id: 'smooth', name: say`the camera: make its way smooth`, what: CAMERA, at: { kind: 'smooth', seconds: EVENED } },
    ...points.flatMap(({ id, name }) => [
      { id: say`${id} stay`, name: say`${name}: hold it where it is now`, what: id, at: { kind: 'stay' as const, frame } },
      { id: say`${id} middle`, name: say`${name}: hold it in the middle`, what: id, at: { kind: 'middle' as const } },
    ]),
  ];
}

/** What can be followed: in a layer's own take to hold it, in others to attach it, in any take to move like its camera. */
export function FollowTools({ project, shot, layer }: { project: Project; shot: Shot; layer: Layer }) {
  const { doing, said, start } = useDoing();
  const [whole, setWhole] = useState(false);
  const masks = layer.masks.filter((m) => 'x' in m.numbers || 'x0' in m.numbers);
  const marked = shot.layers.flatMap((on) => (takeOf(project, on)?.points ?? []).map((point) => ({ on, point })));
  const targets = [
    ...marked
      .filter(({ on }) => on.id !== layer.id)
      .map(({ on, point }) => ({ on, point, mask: null as string | null, name: say`this layer to ${point.name} of ${on.name}` })),
    ...masks.flatMap((mask, i) =>
      marked.map(({ on, point }) => ({
        on,
        point,
        mask: mask.id as string | null,
        name: say`mask ${i + 1} to ${point.name} of ${on.name}`,
      })),
    ),
  ];
  const here = () => holds(project, layer, useProject.getState().playhead);
  if (doing !== null) return <Working text={say`Following`} done={doing} />;
  return (
    <>
      {layer.source.kind === 'take' && (
        <SelectField
          label={say`Keep still`}
          value=""
          options={[['', say`Choose what`], ...here().map((h) => [h.id, h.name] as const)]}
          onChange={(id) => {
            const hold = here().find((h) => h.id === id);
            if (hold) start((tell) => holdInLayer(shot.id, layer.id, hold.what, hold.at, tell));
          }}
        />
      )}
      {targets.length > 0 && (
        <>
          <SelectField
            label={say`Attach`}
            value=""
            options={[['', say`Choose what to what`], ...targets.map((t, i) => [String(i), t.name] as const)]}
            onChange={(i) => {
              const target = targets[Number(i)];
              if (i === '' || !target) return;
              const on = { layerId: target.on.id, pointId: target.point.id };
              start((tell) => attachTo(shot.id, layer.id, target.mask, on, { turn: whole, scale: whole }, tell));
            }}
          />
          <Tick ticked={whole} onTick={setWhole}>
            {say`With its turn and size`}
          </Tick>
        </>
      )}
      <SelectField
        label={say`Move like the camera of`}
        value=""
        options={[['', say`Choose a take`], ...project.takes.map((t) => [t.id, footageName(footageOf(project, t.id))] as const)]}
        onChange={(id) => id && start((tell) => shakeLike(shot.id, layer.id, id, tell))}
      />
      {said && <Note level="unsure">{said}</Note>}
    </>
  );
}
