'use client';
import { useMemo, useState } from 'react';
import { MOST_OVERSCAN, type Project, type Shot } from '@/core/document';
import { regenerate, withStart } from '@/core/edit';
import { holderOf, shotFrames } from '@/core/evaluate';
import { say } from '@/core/words';
import { prepareFrames } from '@/data/draw-ahead';
import { splitShotHere } from '@/data/layer-time';
import { marginNeeded } from '@/data/media';
import { removeOverAll } from '@/data/over-all';
import { changeShot, copyShot, holdTogether, removeShot, repeatShot, takeApart } from '@/data/shots';
import { useProject } from '@/data/store';
import { Button, Note, NumberField, Working } from '@/ui/controls';
import { TextField } from '@/ui/value-field';
import { useJob } from '@/views/shared';
import { LayerList } from './layer-list';
import { MoveFields } from './move-fields';
import { PlaceField } from './place-field';
import { TransitionField } from './transition-field';
import { useScore } from './use-score';

/** Copying, repeating, and putting shots into one another. */
function Arrange({ project, shot }: { project: Project; shot: Shot }) {
  const more = useScore((s) => s.more);
  const [bars, setBars] = useState(4);
  const song = project.song?.map;
  const last = song ? song.beats.length - song.bar1 : Math.max(...project.shots.map((s) => s.end.beat));
  const holds = shot.layers.some((l) => l.source.kind === 'shot');
  return (
    <div className="flex flex-wrap items-end gap-2">
      <Button onClick={() => copyShot(shot)}>{say`Copy`}</Button>
      <div className="w-20">
        <NumberField label={say`Every`} unit="bars" value={bars} min={1} max={64} onChange={(v) => setBars(Math.round(v))} />
      </div>
      <Button onClick={() => repeatShot(shot, bars, last)}>{say`Repeat to the end`}</Button>
      <Button onClick={() => holdTogether([shot.id, ...more])}>
        {more.length ? say`Put ${more.length + 1} shots into one` : say`Put into a shot`}
      </Button>
      {holds && <Button onClick={() => takeApart(shot.id)}>{say`Take apart`}</Button>}
    </div>
  );
}

/** Draws a shot ahead, for one that takes longer to draw than to play. */
function DrawAhead({ project, shot }: { project: Project; shot: Shot }) {
  const { doing, problem, run, stop } = useJob();
  const draw = () => {
    const [first, end] = shotFrames(project, shot);
    void run(say`Drawing the shot`, (tell, signal) => prepareFrames(project, first, end, tell, signal));
  };
  return (
    <>
      {doing ? <Working text={doing.text} done={doing.done} onStop={stop} /> : <Button onClick={draw}>{say`Draw this shot ahead`}</Button>}
      {problem && <Note level="unsure">{problem}</Note>}
    </>
  );
}

/** Everything about the selected shot that is typed or chosen. */
export function ShotPanel({ project, shot }: { project: Project; shot: Shot }) {
  const set = (label: string, next: Partial<Shot>) => changeShot(shot.id, label, (s, now) => regenerate(now, { ...s, ...next }));
  const use = holderOf(project, shot.id);
  const overAll = shot.id === project.overAll;
  const [said, setSaid] = useState('');
  const need = useMemo(() => marginNeeded(project, shot), [project, shot]);
  return (
    <div className="space-y-4">
      {use && (
        <p className="flex flex-wrap items-center gap-2">
          <span>{say`Lies within “${use.shot.name}”.`}</span>
          <Button onClick={() => useProject.setState({ selectedShot: use.shot.id })}>{say`Back to it`}</Button>
        </p>
      )}
      {overAll && (
        <div className="space-y-2">
          <p className="text-sm text-faint">
            {say`Lies on every shot, from the film’s first frame to its last: effects on “Everything below” change the whole film, other layers are seen all along. Keys count from bar 1.`}
          </p>
          <Button kind="quiet" className="text-mark" onClick={removeOverAll}>
            {say`Take it away`}
          </Button>
        </div>
      )}
      {!overAll && <MoveFields project={project} shot={shot} />}
      <LayerList project={project} shot={shot} />
      <details className={overAll ? 'hidden' : ''}>
        <summary className="flex min-h-11 cursor-pointer items-center sm:min-h-8">{say`The shot’s name, bars and margin`}</summary>
        <div className="mt-2 space-y-4">
          <TextField label={say`Name`} value={shot.name} onChange={(name) => set(say`Name the shot`, { name })} />
          {!use && (
            <>
              <PlaceField
                project={project}
                label={say`Shot begins`}
                place={shot.start}
                from={0}
                onChange={(start) => changeShot(shot.id, say`Move the shot’s start`, (s, now) => regenerate(now, withStart(s, start)))}
              />
              <PlaceField
                project={project}
                label={say`Shot ends`}
                place={shot.end}
                from={0}
                onChange={(end) => set(say`Move the shot’s end`, { end })}
              />
            </>
          )}
          <NumberField
            label={say`Shown at (${need.toFixed(2)} % needed)`}
            unit="%"
            value={shot.overscan}
            min={100}
            max={150}
            step={0.1}
            digits={2}
            onChange={(overscan) => set(say`Enlarge the shot`, { overscan })}
          />
          {need > shot.overscan + 0.005 && (
            <Button disabled={need > MOST_OVERSCAN} onClick={() => set(say`Enlarge the shot`, { overscan: need })}>
              {need > MOST_OVERSCAN ? say`More than ${MOST_OVERSCAN} % are needed: move it less` : say`Enlarge it to ${need.toFixed(2)} %`}
            </Button>
          )}
        </div>
      </details>
      {!use && !overAll && (
        <>
          <TransitionField project={project} shot={shot} />
          <Arrange project={project} shot={shot} />
          <DrawAhead project={project} shot={shot} />
          <Button onClick={() => setSaid(splitShotHere(shot.id))}>{say`Split the shot here`}</Button>
          {said && <Note level="unsure">{said}</Note>}
          <Button kind="quiet" className="text-mark" onClick={() => removeShot(shot.id)}>
            {say`Take the shot off the score`}
          </Button>
        </>
      )}
    </div>
  );
}
