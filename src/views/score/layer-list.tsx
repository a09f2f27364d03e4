'use client';
import { useState } from 'react';
import type { Project, Shot } from '@/core/document';
import { copiedLayer, copiedMask } from '@/core/edit';
import { LAYER_NUMBERS, type Layer, type LayerNumber, type Mask, plainMask, still } from '@/core/layer';
import { BLEND_MODES, COMBINES } from '@/core/picture';
import { sourceKind } from '@/core/sources';
import { say } from '@/core/words';
import { takeFont } from '@/data/font-files';
import { changeLayer, changeShot, swapTake } from '@/data/shots';
import { useProject } from '@/data/store';
import { Button, NumberField, Tape, Tick } from '@/ui/controls';
import { SelectField, TextField } from '@/ui/value-field';
import { EchoTools } from './echo-tools';
import { EffectList } from './effect-list';
import { FollowTools } from './follow-tools';
import { LayerTime } from './layer-time';
import { AddLayer, DuckUnder, MeasureMask, PlateAge } from './layer-tools';
import { NumberButton } from './number-button';
import { SourceSettings } from './source-settings';
import { TakeChoice } from './take-choice';
import { choose, numbersOf } from './use-score';

const SHAPES = ['line', 'ellipse', 'rectangle', 'polygon', 'outline'] as const;

const newId = () => `copy-${crypto.randomUUID().slice(0, 8)}`;

/** A drawn mask as it comes: in the middle, half the frame wide. */
function newMask(kind: (typeof SHAPES)[number]): Mask {
  const corners: [number, number][] = [
    [35, 30],
    [65, 30],
    [65, 70],
    [35, 70],
  ];
  const points = Object.fromEntries(
    corners.flatMap(
      ([x, y], i) =>
        [
          [`x${i}`, still(x)],
          [`y${i}`, still(y)],
        ] as const,
    ),
  );
  const numbers =
    kind === 'line'
      ? { at: still(50), angle: still(90) }
      : kind === 'polygon' || kind === 'outline'
        ? points
        : { x: still(50), y: still(50), width: still(30), height: still(40), turn: still(0) };
  return plainMask(`mask-${crypto.randomUUID().slice(0, 8)}`, kind, { ...numbers, inside: still(1), outside: still(1) });
}

function MaskRow({ shot, layer, mask }: { shot: Shot; layer: Layer; mask: Mask }) {
  const change = (label: string, next: Partial<Mask>) =>
    changeLayer(shot.id, layer.id, label, (l) => ({
      ...l,
      masks: l.masks.map((m) => (m.id === mask.id ? ({ ...m, ...next } as Mask) : m)),
    }));
  return (
    <li className="rounded-md border border-rule p-2">
      <div className="flex flex-wrap items-center gap-x-3">
        <span className="font-medium first-letter:uppercase">{mask.kind}</span>
        <Tick ticked={mask.on} onTick={(on) => change(say`Switch a mask`, { on })} className="text-sm">
          {say`On`}
        </Tick>
        <Tick ticked={mask.invert} onTick={(invert) => change(say`Turn a mask inside out`, { invert })} className="text-sm">
          {say`Invert`}
        </Tick>
        <Tick
          ticked={mask.attachedToLayer}
          onTick={(attachedToLayer) => change(say`Attach a mask to its layer`, { attachedToLayer })}
          className="text-sm"
        >
          {say`Moves with its picture`}
        </Tick>
        <Button
          kind="quiet"
          className="ml-auto text-mark"
          onClick={() =>
            changeLayer(shot.id, layer.id, say`Remove a mask`, (l) => ({ ...l, masks: l.masks.filter((m) => m.id !== mask.id) }))
          }
        >
          {say`Remove`}
        </Button>
      </div>
      <SelectField
        label={say`Mask mode`}
        value={mask.combine}
        options={COMBINES.map((c) => [c, { add: say`added`, subtract: say`taken away`, intersect: say`only where both are` }[c]] as const)}
        onChange={(combine) => change(say`Combine masks otherwise`, { combine: combine as Mask['combine'] })}
      />
      <div className="mt-2 flex flex-wrap gap-1.5">
        {numbersOf(shot.id, { ...layer, numbers: {}, sourceNumbers: {}, effects: [], masks: [mask] })
          .filter((at) => !/^[xy]\d+$/.test(at.name))
          .map((at) => (
            <NumberButton key={at.name} shot={shot} layer={layer} at={at} />
          ))}
      </div>
    </li>
  );
}

function LayerRow({ project, shot, layer, index }: { project: Project; shot: Shot; layer: Layer; index: number }) {
  const change = (label: string, next: Partial<Layer>) => changeLayer(shot.id, layer.id, label, (l) => ({ ...l, ...next }));
  const set = (Object.keys(LAYER_NUMBERS) as LayerNumber[]).filter((name) => layer.numbers[name]);
  const others = (Object.keys(LAYER_NUMBERS) as LayerNumber[]).filter((name) => !layer.numbers[name]);
  const raise = (by: number) =>
    changeShot(shot.id, by > 0 ? say`Raise a layer` : say`Lower a layer`, (s) => {
      const layers = [...s.layers];
      const [moved] = layers.splice(index, 1);
      layers.splice(index + by, 0, moved);
      return { ...s, layers };
    });
  const { source } = layer;
  return (
    <details className="rounded-md border border-rule bg-sheet" data-testid="layer">
      <summary className="flex min-h-11 cursor-pointer items-center gap-2 px-2">
        <Tape index={layer.tape}>{layer.name}</Tape>
        {!layer.on && <span className="text-sm text-faint">{say`off`}</span>}
      </summary>
      <div className="space-y-3 p-2 pt-0">
        <div className="flex flex-wrap items-center gap-2">
          <Tick ticked={layer.on} onTick={(on) => change(on ? say`Switch a layer on` : say`Switch a layer off`, { on })}>
            {say`Shown`}
          </Tick>
          <Button kind="quiet" disabled={index === shot.layers.length - 1} onClick={() => raise(1)}>
            {say`Higher`}
          </Button>
          <Button kind="quiet" disabled={index === 0} onClick={() => raise(-1)}>
            {say`Lower`}
          </Button>
          <Button
            kind="quiet"
            onClick={() =>
              changeShot(shot.id, say`Copy a layer`, (s) => ({
                ...s,
                layers: s.layers.toSpliced(index + 1, 0, copiedLayer(s.layers[index], newId)),
              }))
            }
          >
            {say`Copy`}
          </Button>
          {(shot.move === null || layer.madeBy === 'user') && shot.layers.length > 1 && (
            <Button
              kind="quiet"
              className="ml-auto text-mark"
              onClick={() => changeShot(shot.id, say`Remove a layer`, (s) => ({ ...s, layers: s.layers.filter((l) => l.id !== layer.id) }))}
            >
              {say`Remove`}
            </Button>
          )}
        </div>
        <TextField label={say`Name of the layer`} value={layer.name} onChange={(name) => change(say`Name a layer`, { name })} />
        {source.kind === 'take' && (
          <TakeChoice project={project} label={say`Take`} takeId={source.takeId} onChange={(to) => swapTake(shot.id, source.takeId, to)} />
        )}
        <SourceSettings
          project={project}
          shot={shot}
          layer={layer}
          onChange={(next) => change(say`Change what a layer shows`, { source: next })}
          onFont={(file) => takeFont(project, shot.id, layer.id, file)}
        />
        <div className="flex flex-wrap gap-1.5">
          {set.map((name) => (
            <NumberButton key={name} shot={shot} layer={layer} at={{ shotId: shot.id, layerId: layer.id, partId: null, name }} />
          ))}
          <select
            aria-label={say`Add a keyframed property`}
            className="min-h-11 rounded-full border border-rule bg-sheet px-2 text-sm sm:min-h-8"
            value=""
            onChange={(e) => choose({ shotId: shot.id, layerId: layer.id, partId: null, name: e.target.value })}
          >
            <option value="">{say`Add a keyframed property…`}</option>
            {others.map((name) => (
              <option key={name} value={name}>
                {LAYER_NUMBERS[name].label}
              </option>
            ))}
          </select>
        </div>
        <div className="grid grid-cols-2 gap-2">
          <SelectField
            label={say`Blend`}
            value={layer.blend}
            options={BLEND_MODES.map((b) => [b, b] as const)}
            onChange={(blend) => change(say`Blend otherwise`, { blend: blend as Layer['blend'] })}
          />
          <SelectField
            label={say`Edges`}
            value={layer.edge}
            options={[
              ['clear', say`clear`],
              ['mirror', say`mirrored`],
            ]}
            onChange={(edge) => change(say`Change the edge`, { edge: edge as Layer['edge'] })}
          />
          <NumberField
            label={say`Shutter angle`}
            unit="°"
            value={layer.shutter}
            min={0}
            max={720}
            step={45}
            onChange={(shutter) => change(say`Change the smear`, { shutter })}
          />
        </div>
        <LayerTime project={project} shot={shot} layer={layer} />
        <EffectList project={project} shot={shot} layer={layer} />
        {!sourceKind(source).again && <EchoTools shot={shot} layer={layer} />}
        <ul className="space-y-2">
          {layer.masks.map((mask) => (
            <MaskRow key={mask.id} shot={shot} layer={layer} mask={mask} />
          ))}
        </ul>
        {layer.masks.length > 0 && shot.layers.length > 1 && (
          <SelectField
            label={say`Copy its masks to`}
            value=""
            options={[['', say`a layer`], ...shot.layers.filter((l) => l !== layer).map((l) => [l.id, l.name] as const)]}
            onChange={(id) =>
              id &&
              changeLayer(shot.id, id, say`Copy masks to a layer`, (l) => ({
                ...l,
                masks: [...l.masks, ...layer.masks.map((m) => copiedMask(m, newId()))],
              }))
            }
          />
        )}
        {source.kind === 'still' && <PlateAge project={project} shot={shot} mediaId={source.mediaId} />}
        {source.kind === 'shot' && (
          <Button onClick={() => useProject.setState({ selectedShot: source.shotId })}>{say`Open what is in it`}</Button>
        )}
        {source.kind === 'take' ? <MeasureMask shot={shot} layer={layer} /> : <DuckUnder project={project} shot={shot} layer={layer} />}
        <FollowTools project={project} shot={shot} layer={layer} />
        <SelectField
          label={say`Draw a mask`}
          value=""
          options={[['', say`Choose a shape`], ...SHAPES.map((s) => [s, s === 'outline' ? 'smooth outline' : s] as const)]}
          onChange={(kind) => {
            if (!kind) return;
            const mask = newMask(kind as (typeof SHAPES)[number]);
            changeLayer(shot.id, layer.id, say`Draw a ${kind}`, (l) => ({ ...l, masks: [...l.masks, mask] }));
            choose({
              shotId: shot.id,
              layerId: layer.id,
              partId: mask.id,
              name: kind === 'line' ? 'at' : kind === 'polygon' || kind === 'outline' ? 'x0' : 'x',
            });
          }}
        />
      </div>
    </details>
  );
}

/** The layers of a shot, the upmost first, each with its tape, its numbers and its masks. */
export function LayerList({ project, shot }: { project: Project; shot: Shot }) {
  const [all, showAll] = useState(false);
  const list = shot.layers.map((layer, index) => ({ layer, index })).toReversed();
  const shown = all ? list : list.slice(0, 6);
  return (
    <section aria-label={say`Layers`} className="space-y-2">
      <h3 className="font-semibold">{say`Layers`}</h3>
      {shown.map(({ layer, index }) => (
        <LayerRow key={layer.id} project={project} shot={shot} layer={layer} index={index} />
      ))}
      <AddLayer project={project} shot={shot} />
      {list.length > shown.length && <Button onClick={() => showAll(true)}>{say`All ${list.length} layers`}</Button>}
    </section>
  );
}
