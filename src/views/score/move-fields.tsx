'use client';
import { useState } from 'react';
import { type MeasuredFall, meanPath, moveProblems } from '@/core/moves';
import { footageOf, type Move, type MoveOf, type Project, type Shot, SIDES, WHIP_WAYS } from '@/core/shot';
import { takeFall } from '@/data/media';
import { changeMove, freshMove } from '@/data/shots';
import { Button, Note, NumberField, Tick, Working } from '@/ui/parts';
import { SelectField } from '@/ui/value-field';
import { PlaceField } from './place-field';
import { Presets } from './presets';

interface FieldsProps<M extends Move> {
  project: Project;
  shot: Shot;
  move: M;
  set: (label: string, next: Partial<M>) => void;
}

const options = <T extends string>(names: readonly T[]) => names.map((n) => [n, n] as const);

function RevealFields({ project, shot, move, set }: FieldsProps<MoveOf<'reveal'>>) {
  const [doing, setDoing] = useState<number | null>(null);
  const [said, setSaid] = useState('');
  const follow = async () => {
    setDoing(0);
    setSaid('');
    try {
      const falls: MeasuredFall[] = [];
      const sync = { before: move.before, after: move.after };
      let cover = 0;
      for (const [i, side] of (['before', 'after'] as const).entries()) {
        const fall = await takeFall(footageOf(project, move[side].takeId), move.angle, (p) => setDoing((i + p) / 2));
        if (!fall) continue;
        falls.push(fall);
        cover = Math.max(cover, fall.cover);
        sync[side] = { ...move[side], sync: fall.from };
      }
      if (falls.length === 0) setSaid('Nothing clearly moves that way in either take. Turn the line, or set its keys by hand.');
      else {
        const seconds = falls.reduce((sum, f) => sum + f.to - f.from, 0) / falls.length;
        set('Follow the fall', { ...sync, path: { share: meanPath(falls), seconds } });
        setSaid(
          `The line runs under the densest movement: ${Math.round(cover * 100)} % of all falling movement lies within a seventh of the frame of it.`,
        );
      }
    } catch (error) {
      setSaid(error instanceof Error ? error.message : String(error));
    }
    setDoing(null);
  };
  const from = shot.start.beat;
  return (
    <>
      <PlaceField
        project={project}
        label="Reveal begins"
        place={move.start}
        from={from}
        onChange={(start) => set('Move the reveal', { start })}
      />
      <PlaceField
        project={project}
        label="Reveal ends"
        place={move.end}
        from={from}
        onChange={(end) => set('Move the reveal’s end', { end })}
      />
      {doing !== null ? (
        <Working text="Reading what falls" done={doing} />
      ) : (
        move.by === 'line' && (
          <Button className="w-full" onClick={() => void follow()}>
            Follow the fall
          </Button>
        )
      )}
      {said && <Note level="unsure">{said}</Note>}
      <SelectField
        label="Uncovered by"
        value={move.by}
        options={[
          ['line', 'a line that passes'],
          ['ring', 'a ring that grows'],
        ]}
        onChange={(by) => set('Uncover it otherwise', { by: by as MoveOf<'reveal'>['by'] })}
      />
      <div className="grid grid-cols-2 gap-2">
        <NumberField
          label="Feather"
          unit="%"
          value={move.feather}
          min={0}
          max={100}
          onChange={(feather) => set('Feather the edge', { feather })}
        />
        <NumberField
          label="Angle"
          unit="°"
          value={move.angle}
          min={-180}
          max={180}
          step={5}
          onChange={(angle) => set('Turn the line', { angle })}
        />
        <NumberField
          label="Speed of the fall"
          unit="×"
          value={move.fallSpeed}
          min={0.1}
          max={8}
          step={0.1}
          digits={2}
          onChange={(fallSpeed) => set('Change the speed of the fall', { fallSpeed })}
        />
      </div>
      <div className="grid grid-cols-2 gap-2">
        {(['before', 'after'] as const).map((side) => (
          <NumberField
            key={side}
            label={side === 'before' ? 'First take at the start' : 'Second take at the start'}
            unit="s"
            value={move[side].sync}
            min={0}
            max={36000}
            step={0.04}
            digits={2}
            onChange={(sync) => set('Slide the take', { [side]: { ...move[side], sync } })}
          />
        ))}
      </div>
    </>
  );
}

function WhipFields({ project, shot, move, set }: FieldsProps<MoveOf<'whip'>>) {
  return (
    <>
      <PlaceField project={project} label="Cut" place={move.cut} from={shot.start.beat} onChange={(cut) => set('Move the cut', { cut })} />
      <div className="grid grid-cols-2 gap-2">
        <SelectField
          label="The view goes"
          value={move.way}
          options={options(WHIP_WAYS)}
          onChange={(way) => set('Whip another way', { way: way as typeof move.way })}
        />
        <NumberField
          label="Frames in all"
          unit="f"
          value={move.frames}
          min={4}
          max={120}
          step={2}
          onChange={(frames) => set('Lengthen the whip', { frames: Math.round(frames) })}
        />
        <NumberField
          label="Travel each side"
          unit="×"
          value={move.travel}
          min={0.1}
          max={8}
          step={0.1}
          digits={1}
          onChange={(travel) => set('Whip further', { travel })}
        />
        <NumberField
          label="Shutter angle"
          unit="°"
          value={move.shutter}
          min={0}
          max={720}
          step={45}
          onChange={(shutter) => set('Change the smear', { shutter })}
        />
        {(['out', 'into'] as const).map((side) => (
          <NumberField
            key={side}
            label={side === 'out' ? 'First take at the cut' : 'Second take at the cut'}
            unit="s"
            value={move[side].sync}
            min={0}
            max={36000}
            step={0.04}
            digits={2}
            onChange={(sync) => set('Slide the take', { [side]: { ...move[side], sync } })}
          />
        ))}
      </div>
      <Presets rate={project.frame.rate} move={move} onTake={(next) => set('Take a kept whip', next)} />
    </>
  );
}

function FreezeFields({ project, shot, move, set }: FieldsProps<MoveOf<'freeze'>>) {
  const from = shot.start.beat;
  const part = (i: number, next: Partial<(typeof move.parts)[number]>) =>
    set('Change a part', { parts: move.parts.map((p, k) => (k === i ? { ...p, ...next } : p)) });
  return (
    <>
      <PlaceField project={project} label="Freezes" place={move.at} from={from} onChange={(at) => set('Move the freeze', { at })} />
      <PlaceField
        project={project}
        label="Runs on"
        place={move.until}
        from={from}
        onChange={(until) => set('Lengthen the freeze', { until })}
      />
      <SelectField
        label="Under the parts"
        value={move.under}
        options={[
          ['frozen', 'the frozen picture'],
          ['running', 'the take running on'],
          ...(move.plate ? [['plate', 'the clean plate'] as const] : []),
        ]}
        onChange={(under) => set('Change what is under the parts', { under: under as typeof move.under })}
      />
      <div className="grid grid-cols-2 gap-2">
        <NumberField
          label="Frozen second"
          unit="s"
          value={move.use.sync}
          min={0}
          max={36000}
          step={0.04}
          digits={2}
          onChange={(sync) => set('Freeze another frame', { use: { ...move.use, sync } })}
        />
        <NumberField
          label="A part every"
          unit="beats"
          value={move.every}
          min={0.25}
          max={16}
          step={0.25}
          digits={2}
          onChange={(every) => set('Space the parts', { every })}
        />
        <NumberField
          label="Flight"
          unit="f"
          value={move.flight}
          min={2}
          max={120}
          onChange={(v) => set('Change the flight', { flight: Math.round(v) })}
        />
        <NumberField
          label="Shake at the last"
          unit="f"
          value={move.shake}
          min={0}
          max={60}
          onChange={(v) => set('Change the shake', { shake: Math.round(v) })}
        />
        <NumberField
          label="Size of the shake"
          unit="%"
          value={move.shakeSize}
          min={0}
          max={20}
          step={0.25}
          digits={2}
          onChange={(shakeSize) => set('Change the shake', { shakeSize })}
        />
        <NumberField
          label="Trail every"
          unit="f"
          value={move.trail.every}
          min={0}
          max={250}
          onChange={(v) => set('Change the trail', { trail: { ...move.trail, every: Math.round(v), count: move.trail.count || 5 } })}
        />
        <NumberField
          label="Copies in the trail"
          unit=""
          value={move.trail.count}
          min={0}
          max={40}
          onChange={(v) => set('Change the trail', { trail: { ...move.trail, count: Math.round(v) } })}
        />
        <NumberField
          label="Newest copy"
          unit="%"
          value={move.trail.opacity}
          min={0}
          max={100}
          onChange={(opacity) => set('Change the trail', { trail: { ...move.trail, opacity } })}
        />
      </div>
      {move.parts.map((p, i) => (
        <fieldset key={i} className="border-t border-rule pt-2">
          <legend className="text-sm">Part {i + 1}</legend>
          <div className="grid grid-cols-3 gap-1.5">
            <SelectField
              label="From the"
              value={p.side}
              options={options(SIDES)}
              onChange={(side) => part(i, { side: side as typeof p.side })}
            />
            <NumberField label="Scale from" unit="%" value={p.scale} min={1} max={400} step={5} onChange={(scale) => part(i, { scale })} />
            <NumberField label="Turn from" unit="°" value={p.turn} min={-720} max={720} step={5} onChange={(turn) => part(i, { turn })} />
          </div>
        </fieldset>
      ))}
      {move.parts.length > 0 && (
        <div className="flex flex-wrap gap-2">
          <Button disabled={move.parts.length < 2} onClick={() => set('Leave a part out', { parts: move.parts.slice(0, -1) })}>
            One part fewer
          </Button>
          <Button onClick={() => set('Let the figure arrive whole', { parts: [{ ...move.parts[0], band: null }] })}>
            The whole figure at once
          </Button>
        </div>
      )}
    </>
  );
}

function RampFields({ project, shot, move, set }: FieldsProps<MoveOf<'ramp'>>) {
  const pose = (i: number, next: Partial<(typeof move.poses)[number]>) =>
    set('Move a pose', { poses: move.poses.map((p, k) => (k === i ? { ...p, ...next } : p)) });
  const last = move.poses[move.poses.length - 1];
  return (
    <>
      <div className="grid grid-cols-2 gap-2">
        <NumberField
          label="Fastest"
          unit="%"
          value={100 * move.fastest}
          min={10}
          max={6400}
          step={10}
          onChange={(v) => set('Limit the speed', { fastest: v / 100 })}
        />
        <NumberField
          label="Change a second (0: any)"
          unit="%"
          value={100 * (move.acceleration ?? 0)}
          min={0}
          max={100000}
          step={100}
          onChange={(v) => set('Limit the change of speed', { acceleration: v > 0 ? v / 100 : null })}
        />
        <NumberField
          label="Zoom by turns"
          unit="%"
          value={move.zoom}
          min={0}
          max={200}
          onChange={(zoom) => set('Zoom by turns', { zoom })}
        />
        <SelectField
          label="Between its frames"
          value={move.between}
          options={[
            ['repeat', 'the frame before again'],
            ['blend', 'both frames blended'],
          ]}
          onChange={(between) => set('Fill in between frames', { between: between as typeof move.between })}
        />
      </div>
      <Tick ticked={move.hard} onTick={(hard) => set(hard ? 'Step the speed' : 'Smooth the speed', { hard })}>
        Hard steps of speed
      </Tick>
      {move.poses.map((p, i) => (
        <fieldset key={i} className="border-t border-rule pt-2" aria-label={`Pose ${i + 1}`}>
          <PlaceField
            project={project}
            label={`Pose ${i + 1} on`}
            place={p}
            from={shot.start.beat}
            onChange={({ beat, offset }) => pose(i, { beat, offset })}
          />
          <div className="mt-1 grid grid-cols-2 gap-2">
            <NumberField
              label="Second of the take"
              unit="s"
              value={p.source}
              min={0}
              max={36000}
              step={0.04}
              digits={2}
              onChange={(source) => pose(i, { source })}
            />
            <NumberField
              label="Speed on it"
              unit="%"
              value={100 * p.speed}
              min={0}
              max={1600}
              step={5}
              onChange={(v) => pose(i, { speed: v / 100 })}
            />
          </div>
        </fieldset>
      ))}
      <div className="flex flex-wrap gap-2">
        <Button onClick={() => set('Add a pose', { poses: [...move.poses, { ...last, beat: last.beat + 2, source: last.source + 1 }] })}>
          One more pose
        </Button>
        <Button disabled={move.poses.length < 3} onClick={() => set('Leave a pose out', { poses: move.poses.slice(0, -1) })}>
          One pose fewer
        </Button>
      </div>
    </>
  );
}

function SplitFields({ project, shot, move, set }: FieldsProps<MoveOf<'split'>>) {
  const from = shot.start.beat;
  const swapped = () => set('Swap the panels', { panels: [...move.panels.slice(1), move.panels[0]] });
  return (
    <>
      <PlaceField project={project} label="Opens" place={move.open} from={from} onChange={(open) => set('Move the opening', { open })} />
      <PlaceField
        project={project}
        label="Closes"
        place={move.close}
        from={from}
        onChange={(close) => set('Move the closing', { close })}
      />
      <div className="grid grid-cols-2 gap-2">
        <NumberField
          label="Panels in a row"
          unit=""
          value={move.columns}
          min={1}
          max={9}
          onChange={(v) => set('Lay the panels otherwise', { columns: Math.round(v) })}
        />
        <NumberField
          label="Slant"
          unit="°"
          value={move.slant}
          min={-45}
          max={45}
          step={5}
          onChange={(slant) => set('Slant the panels', { slant })}
        />
        <NumberField
          label="Gutter"
          unit="%"
          value={move.gutter}
          min={0}
          max={20}
          step={0.5}
          digits={1}
          onChange={(gutter) => set('Change the gutter', { gutter })}
        />
        <NumberField
          label="Feather"
          unit="%"
          value={move.feather}
          min={0}
          max={30}
          step={0.5}
          digits={1}
          onChange={(feather) => set('Feather the panels', { feather })}
        />
        <NumberField
          label="Opening takes"
          unit="f"
          value={move.frames}
          min={0}
          max={120}
          onChange={(v) => set('Open in other frames', { frames: Math.round(v) })}
        />
        <NumberField
          label="One after another by"
          unit="beats"
          value={move.stagger}
          min={0}
          max={8}
          step={0.25}
          digits={2}
          onChange={(stagger) => set('Stagger the panels', { stagger })}
        />
        <NumberField
          label="Each lags by"
          unit="s"
          value={move.delay}
          min={0}
          max={10}
          step={0.04}
          digits={2}
          onChange={(delay) => set('Let the panels lag', { delay })}
        />
      </div>
      <Button onClick={swapped}>Each panel one place on</Button>
    </>
  );
}

/** What is typed or chosen of a shot's move, and what stands in its way with the nearest that can be had. */
export function MoveFields({ project, shot }: { project: Project; shot: Shot }) {
  const { move } = shot;
  const problems = moveProblems(project, shot);
  const set = (label: string, next: Partial<Move>) => changeMove(shot.id, label, (m) => ({ ...m, ...next }) as Move);
  return (
    <div className="space-y-3">
      {problems.map(({ text, nearest }) => (
        <div key={text} className="space-y-1" data-testid="move-problem">
          <Note level="fix">{text}</Note>
          {nearest && <Button onClick={() => changeMove(shot.id, nearest.label, () => nearest.move)}>{nearest.label}</Button>}
        </div>
      ))}
      {move?.kind === 'reveal' && <RevealFields project={project} shot={shot} move={move} set={set} />}
      {move?.kind === 'whip' && <WhipFields project={project} shot={shot} move={move} set={set} />}
      {move?.kind === 'freeze' && <FreezeFields project={project} shot={shot} move={move} set={set} />}
      {move?.kind === 'ramp' && <RampFields project={project} shot={shot} move={move} set={set} />}
      {move?.kind === 'split' && <SplitFields project={project} shot={shot} move={move} set={set} />}
      {shot.hand.length > 0 && move && (
        <div className="space-y-1">
          <p className="text-sm text-faint">
            {shot.hand.length === 1 ? 'One number is' : `${shot.hand.length} numbers are`} yours now: the move leaves{' '}
            {shot.hand.length === 1 ? 'its' : 'their'} keys alone.
          </p>
          <Button onClick={() => freshMove(shot.id)}>Let the move make them again</Button>
        </div>
      )}
    </div>
  );
}
