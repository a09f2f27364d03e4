import { type PointerEvent, useRef, useState } from 'react';
import type { Project, Shot } from '@/core/document';
import { posterFrame } from '@/core/edit';
import { beatMapOf, type PartPlace, partAt, partOf, shotAt, shownPart } from '@/core/evaluate';
import { EASING_NAMES } from '@/core/motion';
import type { Size } from '@/core/sources';
import { barAndBeat } from '@/core/time';
import { say } from '@/core/words';
import { seek } from '@/data/playback';
import { useSettledPlayhead } from '@/data/playhead';
import { followPerformers, keyPart, partFrames, setPart, unkeyPart } from '@/data/versions';
import { Button, Note, NumberField, Working } from '@/ui/controls';
import { SelectField, TickField } from '@/ui/value-field';
import { useJob } from '@/views/shared';

/** Shapes that are asked for (common practice), by the size they are made in. */
const SHAPES = [
  ['1080 1920', '9:16, 1080 × 1920'],
  ['720 1280', '9:16, 720 × 1280'],
  ['1080 1350', '4:5, 1080 × 1350'],
  ['1080 1080', '1:1, 1080 × 1080'],
  ['1920 1080', '16:9, 1920 × 1080'],
  ['2560 1080', '21:9, 2560 × 1080'],
] as const;

const MIDDLE: PartPlace = { x: 50, y: 50 };

/** The shot at the playhead, null between shots, and which part of it is shown there. */
function useShotHere(project: Project): { here: Shot | null; part: PartPlace; playhead: number } {
  const playhead = useSettledPlayhead();
  const here = shotAt(project, playhead);
  return { here, part: here ? partOf(project, here, playhead) : MIDDLE, playhead };
}

/** A part that goes along with what happens in a shot: a key on a frame for each place it is to be at. */
function Pan({ project, shot, playhead }: { project: Project; shot: Shot; playhead: number }) {
  const frames = partFrames(project, shot);
  const key = (shot.part ?? [])[frames.indexOf(playhead)];
  const pans = frames.length > 1;
  const [before, after] = [frames.findLast((f) => f < playhead), frames.find((f) => f > playhead)];
  return (
    <div className="flex flex-wrap items-end gap-2">
      <Button onClick={() => keyPart(shot.id, playhead)} disabled={pans && key !== undefined}>
        {pans ? say`Set a key here` : say`Pan: set a key here`}
      </Button>
      {pans && (
        <>
          <Button disabled={before === undefined} onClick={() => before !== undefined && seek(before)}>
            {say`To the key before`}
          </Button>
          <Button disabled={after === undefined} onClick={() => after !== undefined && seek(after)}>
            {say`To the next key`}
          </Button>
          {key && (
            <>
              <SelectField
                label={say`On to the next key`}
                value={key.easing}
                options={EASING_NAMES.map((name) => [name, name] as const)}
                onChange={(easing) => keyPart(shot.id, playhead, easing as typeof key.easing)}
              />
              <Button kind="quiet" onClick={() => unkeyPart(shot.id, playhead)}>
                {say`Remove this key`}
              </Button>
            </>
          )}
        </>
      )}
      <span className="num self-center text-sm text-faint">
        {pans ? say`${frames.length} keys` : say`It stands still; keys on two frames make it pan.`}
      </span>
    </div>
  );
}

/** In which shape the film is made, and which part of each shot is shown in another. */
export function ShapeField({ project, shape, onShape }: { project: Project; shape: Size | null; onShape: (shape: Size | null) => void }) {
  const { doing, problem, run, stop } = useJob();
  const [said, setSaid] = useState('');
  const { here, part, playhead } = useShotHere(project);
  const [along, setAlong] = useState(false);
  const shown = shape && shownPart(project.frame, shape, part);
  const map = beatMapOf(project);
  const goTo = (shot: Shot | undefined) => shot && seek(posterFrame(project, shot));
  const put = (next: Partial<typeof MIDDLE>) => here && setPart(here.id, { ...part, ...next }, playhead);
  const follow = async () => {
    setSaid('');
    const text =
      shape && (await run(say`Looking for the performers`, (tell, signal) => followPerformers(project, shape, along, tell, signal)));
    if (text) setSaid(text);
  };
  return (
    <div className="mb-3 max-w-md space-y-2">
      <SelectField
        label={say`Make it`}
        value={shape ? `${shape.width} ${shape.height}` : 'film'}
        options={[['film', say`as the film is`], ...SHAPES.map(([size, name]) => [size, say`another shape: ${name}`] as const)]}
        onChange={(value) => {
          const [width, height] = value.split(' ').map(Number);
          onShape(value === 'film' ? null : { width, height });
          // The part can only be seen and pulled where there is a picture.
          if (!here) goTo(project.shots.toSorted((a, b) => a.start.beat - b.start.beat)[0]);
        }}
      />
      {shown && (
        <>
          <p className="text-sm text-faint">
            {say`Each shot shows the part within the frame on the picture. Pull it there or type it, shot by shot; or follow the performers.`}
          </p>
          <SelectField
            label={say`Shot`}
            value={here?.id ?? ''}
            options={[
              ...(here ? [] : [['', 'none at the playhead'] as const]),
              ...project.shots.map((s) => [s.id, say`${s.name}, bar ${barAndBeat(map, s.start.beat).bar}`] as const),
            ]}
            onChange={(id) => goTo(project.shots.find((s) => s.id === id))}
          />
          <div className="flex flex-wrap items-end gap-2">
            {here && shown.width < 0.999 && (
              <div className="w-36">
                <NumberField label={say`From the left`} unit="%" value={part.x} min={0} max={100} digits={1} onChange={(x) => put({ x })} />
              </div>
            )}
            {here && shown.height < 0.999 && (
              <div className="w-36">
                <NumberField label={say`From the top`} unit="%" value={part.y} min={0} max={100} digits={1} onChange={(y) => put({ y })} />
              </div>
            )}
            <Button disabled={doing !== null} onClick={() => void follow()}>
              {say`Follow the performers in all shots`}
            </Button>
          </div>
          <TickField value={along} onChange={setAlong} label={say`Following, pan along with them through each shot`} />
          {here && <Pan project={project} shot={here} playhead={playhead} />}
          {doing && <Working text={doing.text} done={doing.done} onStop={stop} />}
          {(problem || said) && <Note level="unsure">{problem || said}</Note>}
        </>
      )}
    </div>
  );
}

/** Over the film's picture: the part that another shape shows of the shot at the playhead, pulled by finger or mouse. */
export function ShapeWindow({ project, shape }: { project: Project; shape: Size }) {
  const { here, part: shownHere, playhead } = useShotHere(project);
  const pulled = useRef<{ x: number; y: number; left: number; top: number } | null>(null);
  const [pull, setPull] = useState<{ x: number; y: number } | null>(null);
  const part = pull ?? shownHere;
  const { left, top, width, height } = shownPart(project.frame, shape, part);
  const percent = (v: number) => `${100 * v}%`;
  const move = (e: PointerEvent<HTMLDivElement>) => {
    const from = pulled.current;
    const box = e.currentTarget.parentElement?.getBoundingClientRect();
    if (!from || !box) return;
    setPull(partAt(project.frame, shape, from.left + (e.clientX - from.x) / box.width, from.top + (e.clientY - from.y) / box.height));
  };
  const end = () => {
    if (pull && here) setPart(here.id, { x: Math.round(10 * pull.x) / 10, y: Math.round(10 * pull.y) / 10 }, playhead);
    pulled.current = null;
    setPull(null);
  };
  return (
    <div className="absolute inset-0 overflow-hidden">
      {/* The numbers beside it do the same by keyboard. */}
      <div
        className="absolute cursor-grab touch-none border-2 border-sheet shadow-[0_0_0_9999px_rgb(0_0_0/0.55)] active:cursor-grabbing"
        style={{ left: percent(left), top: percent(top), width: percent(width), height: percent(height) }}
        data-testid="shape-window"
        onPointerDown={(e) => {
          if (!here) return;
          e.currentTarget.setPointerCapture(e.pointerId);
          pulled.current = { x: e.clientX, y: e.clientY, left, top };
        }}
        onPointerMove={move}
        onPointerUp={end}
        onPointerCancel={end}
      />
    </div>
  );
}
