'use client';
import { useState } from 'react';
import { footageOf, type Project, type Shot } from '@/core/document';
import {
  ENTRANCES,
  type Entrance,
  type EntranceOf,
  type FadeSide,
  fadeOf,
  footageUsed,
  placeAt,
  repeated,
  shownFrom,
  shownSpan,
  slipped,
  turned,
  withEntrance,
  withFade,
} from '@/core/edit';
import { sceneOf } from '@/core/evaluate';
import { BETWEEN_FRAMES, type Layer, layerFrames, type Place, TAKE_SOUNDS } from '@/core/layer';
import { fps } from '@/core/time';
import { say } from '@/core/words';
import { changeTime, splitLayerHere } from '@/data/layer-time';
import { changeKeys, changeLayer } from '@/data/shots';
import { Button, Note, NumberField, Tick } from '@/ui/controls';
import { SelectField } from '@/ui/value-field';
import { PlaceField } from './place-field';
import { TakeStrip } from './take-strip';

const RUNS = [
  ['once', say`once`],
  ['loop', say`again and again`],
  ['there and back', say`there and back`],
] as const;

interface TimeProps {
  project: Project;
  shot: Shot;
  layer: Layer;
}

/** An end of a layer: with the shot, or at a place of its own. */
function End({ project, shot, layer, end }: TimeProps & { end: 'from' | 'to' }) {
  const place = layer[end];
  const scene = sceneOf(project, shot);
  const label = end === 'from' ? say`Layer begins` : say`Layer ends`;
  const put = (next: Place | null) =>
    changeTime(shot.id, layer.id, say`Move where a layer ${end === 'from' ? 'begins' : 'ends'}`, (_, l) => ({ ...l, [end]: next }));
  const own = () => placeAt(scene, layerFrames(scene, layer)[end === 'from' ? 0 : 1]);
  return (
    <div>
      <Tick ticked={place === null} onTick={(with_) => put(with_ ? null : own())} className="text-sm">
        {end === 'from' ? say`Begins with the shot` : say`Ends with the shot`}
      </Tick>
      {place && <PlaceField project={project} label={label} place={place} from={scene.beat} onChange={put} />}
    </div>
  );
}

/** What smooth runs may not exceed. */
function Limits({ layer: { limits }, change }: { layer: Layer; change: (label: string, how: Parameters<typeof changeTime>[3]) => void }) {
  const put = (next: Partial<NonNullable<Layer['limits']>>) =>
    change(say`Limit the speed of smooth runs`, (_, l) => {
      const { fastest, acceleration } = { fastest: 64, acceleration: null, ...l.limits, ...next };
      return { ...l, limits: fastest >= 64 && acceleration === null ? null : { fastest, acceleration } };
    });
  return (
    <>
      <NumberField
        label={say`Smooth runs no faster than`}
        unit="%"
        value={100 * (limits?.fastest ?? 64)}
        min={10}
        max={6400}
        step={10}
        onChange={(v) => put({ fastest: v / 100 })}
      />
      <NumberField
        label={say`Change a second, 0 for any`}
        unit="%"
        value={100 * (limits?.acceleration ?? 0)}
        min={0}
        max={10000}
        step={50}
        onChange={(v) => put({ acceleration: v > 0 ? v / 100 : null })}
      />
    </>
  );
}

/** How the layer's source runs: what of it is shown, how fast and which way round, and what is heard. */
function Run({ project, shot, layer }: TimeProps) {
  const scene = sceneOf(project, shot);
  const change = (label: string, how: Parameters<typeof changeTime>[3]) => changeTime(shot.id, layer.id, label, how);
  const take = layer.source.kind === 'take' ? footageOf(project, layer.source.takeId) : null;
  const parts = footageUsed(project, scene, layer);
  const [first, last] = shownSpan(scene, layer);
  const rate = take?.fps || fps(project.frame.rate);
  const [only] = layer.timeRemap;
  const even = layer.timeRemap.length === 1 && !layer.numbers.speed;
  const { repeat } = layer;
  return (
    <>
      {take && parts && (
        <TakeStrip
          mediaId={take.id}
          width={take.width}
          whole={parts.whole}
          used={parts.used}
          frame={1 / rate}
          onSlip={(by) => change(say`Slip a layer`, (_, l) => slipped(l, by))}
        />
      )}
      <div className="grid grid-cols-2 gap-2">
        <NumberField
          label={say`First frame shows`}
          unit="s"
          value={first}
          min={take?.from ?? 0}
          max={take ? Math.max(take.from, take.to) : 36_000}
          step={1 / rate}
          digits={2}
          onChange={(v) => change(say`Choose a layer’s first second`, (s, l) => shownFrom(s, l, v))}
        />
        {even && (
          <NumberField
            label={say`Speed`}
            unit="%"
            value={100 * only.speed}
            min={-1600}
            max={1600}
            step={5}
            onChange={(v) =>
              change(say`Change a layer’s speed`, (s, l) =>
                shownFrom(s, { ...l, timeRemap: [{ ...l.timeRemap[0], speed: v / 100 }] }, shownSpan(s, l)[0]),
              )
            }
          />
        )}
        <SelectField
          label={say`Runs`}
          value={repeat?.how ?? 'once'}
          options={RUNS}
          onChange={(v) =>
            change(say`Let a layer run otherwise`, (s, l) =>
              repeated(s, l, v === 'once' ? null : (v as NonNullable<Layer['repeat']>['how'])),
            )
          }
        />
        {repeat && (
          <>
            <NumberField
              label={say`Repeats from`}
              unit="s"
              value={repeat.from}
              min={take?.from ?? 0}
              max={repeat.to - 1 / rate}
              step={1 / rate}
              digits={2}
              onChange={(v) => change(say`Repeat another span`, (_, l) => ({ ...l, repeat: { ...repeat, from: v } }))}
            />
            <NumberField
              label={say`Repeats to`}
              unit="s"
              value={repeat.to}
              min={repeat.from + 1 / rate}
              max={take?.to ?? 36_000}
              step={1 / rate}
              digits={2}
              onChange={(v) => change(say`Repeat another span`, (_, l) => ({ ...l, repeat: { ...repeat, to: v } }))}
            />
          </>
        )}
        {layer.timeRemap.some((key) => key.way === 'smooth') && <Limits layer={layer} change={change} />}
        {take && (
          <>
            <SelectField
              label={say`Between its frames`}
              value={layer.frameInterpolation}
              options={BETWEEN_FRAMES}
              onChange={(v) =>
                change(say`Fill in between frames`, (_, l) => ({ ...l, frameInterpolation: v as Layer['frameInterpolation'] }))
              }
            />
            <SelectField
              label={say`Sound of the take`}
              value={layer.sound}
              options={TAKE_SOUNDS}
              onChange={(v) => change(say`Let the take sound otherwise`, (_, l) => ({ ...l, sound: v as Layer['sound'] }))}
            />
          </>
        )}
      </div>
      <p className="text-sm text-faint">
        {say`Shows `}
        <span className="num">{first.toFixed(2)}</span>
        {say` to `}
        <span className="num">{last.toFixed(2)} s</span>
        {parts && (first < parts.whole[0] - 1 / rate || Math.max(first, last) > parts.whole[1] + 1 / rate)
          ? say`; beyond its ends the last frame stands`
          : ''}
        .
      </p>
      <Button onClick={() => change(say`Reverse a layer`, (s, l) => turned(s, l))}>{say`Reverse`}</Button>
    </>
  );
}

/** Frames over which the layer comes in from nothing or goes out to it. */
function Fade({ project, shot, layer, side }: TimeProps & { side: FadeSide }) {
  return (
    <NumberField
      label={side === 'in' ? say`Fades in over` : say`Fades out over`}
      unit="f"
      value={fadeOf(sceneOf(project, shot), layer, side)}
      min={0}
      max={1000}
      onChange={(frames) =>
        changeKeys({ shotId: shot.id, layerId: layer.id, partId: null, name: 'opacity' }, say`Fade a layer ${side}`, (_, s, now) => {
          const of = s.layers.find((l) => l.id === layer.id) ?? layer;
          return withFade(sceneOf(now, s), of, side, frames).numbers.opacity ?? [];
        })
      }
    />
  );
}

const ENTRANCE_NAMES: Record<Entrance, string> = { fade: say`a fade`, slide: say`a slide`, wipe: say`a wipe`, iris: say`an iris` };

/** A layer brought in or taken out over some frames: ordinary keys and masks are laid. */
function Entrances({ project, shot, layer }: TimeProps) {
  const [entrance, setEntrance] = useState<EntranceOf>({ how: 'wipe', side: 'in', frames: 8, angle: 90 });
  const put = (next: Partial<EntranceOf>) => setEntrance({ ...entrance, ...next });
  const lay = () =>
    changeLayer(shot.id, layer.id, entrance.side === 'in' ? say`Bring a layer in` : say`Take a layer out`, (l) =>
      withEntrance(sceneOf(project, shot), l, project.frame, entrance, `mask-${crypto.randomUUID().slice(0, 8)}`),
    );
  return (
    <fieldset className="grid grid-cols-2 items-end gap-2">
      <legend className="text-sm text-faint">{say`Bring it in or take it out by keys and masks`}</legend>
      <SelectField
        label={say`Which`}
        value={entrance.side}
        options={[
          ['in', say`in at its start`],
          ['out', say`out at its end`],
        ]}
        onChange={(side) => put({ side: side as FadeSide })}
      />
      <SelectField
        label={say`By`}
        value={entrance.how}
        options={ENTRANCES.map((how) => [how, ENTRANCE_NAMES[how]] as const)}
        onChange={(how) => put({ how: how as Entrance })}
      />
      <NumberField label={say`Over`} unit="f" value={entrance.frames} min={1} max={1000} onChange={(frames) => put({ frames })} />
      {(entrance.how === 'slide' || entrance.how === 'wipe') && (
        <NumberField
          label={say`From (0° the top, 90° the left)`}
          unit="°"
          value={entrance.angle}
          min={-360}
          max={360}
          onChange={(angle) => put({ angle })}
        />
      )}
      <div className="col-span-2">
        <Button onClick={lay}>{entrance.side === 'in' ? say`Bring it in so` : say`Take it out so`}</Button>
      </div>
    </fieldset>
  );
}

/** When a layer is there and how its source runs, by number and by drag. */
export function LayerTime({ project, shot, layer }: TimeProps) {
  const [said, setSaid] = useState('');
  const [open, setOpen] = useState(false);
  const runs = layer.source.kind === 'take' || layer.source.kind === 'shot';
  return (
    <details onToggle={(e) => setOpen(e.currentTarget.open)}>
      <summary className="flex min-h-11 cursor-pointer items-center sm:min-h-8">{say`Time`}</summary>
      {open && (
        <div className="space-y-2">
          {runs && <Run project={project} shot={shot} layer={layer} />}
          <End project={project} shot={shot} layer={layer} end="from" />
          <End project={project} shot={shot} layer={layer} end="to" />
          <div className="grid grid-cols-2 gap-2">
            <Fade project={project} shot={shot} layer={layer} side="in" />
            <Fade project={project} shot={shot} layer={layer} side="out" />
          </div>
          <Entrances project={project} shot={shot} layer={layer} />
          <Button onClick={() => setSaid(splitLayerHere(shot.id, layer.id))}>{say`Split the layer here`}</Button>
          {said && <Note level="unsure">{said}</Note>}
        </div>
      )}
    </details>
  );
}
