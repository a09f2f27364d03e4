'use client';
import { useEffect, useMemo, useRef, useState } from 'react';
import { type Footage, footageOf, type Project, type Take } from '@/core/document';
import { plannedSlots } from '@/core/edit';
import { type Course, proposeParts, SOUND_STEP, type SplitBy } from '@/core/measure';
import { say } from '@/core/words';
import { cutTake, slotsFor, type TakePart, takeCourse, wholeAgain } from '@/data/cut-takes';
import { Button, Note, NumberField, Working } from '@/ui/controls';
import { Slider } from '@/ui/slider';
import { tapeColour } from '@/ui/tape';
import { SelectField } from '@/ui/value-field';
import { useJob, useThumbnail } from '@/views/shared';

const WAYS: readonly (readonly [SplitBy | 'hand', string])[] = [
  ['hand', say`where I say`],
  ['holds', say`where nothing moves`],
  ['silences', say`where it is silent`],
  ['marks', say`at each tone or clap`],
];
const NOTHING: Record<SplitBy, string> = {
  holds: say`Nobody keeps still for long enough between two actions (0.7 s), so there is nothing to cut at.`,
  silences: say`There is no silence of 0.7 s between two sounds, so there is nothing to cut at.`,
  marks: say`No tone of 1 kHz and no clap is heard in it.`,
};

/** Movement above the line and sound below it, over the whole file, with the parts laid over them. */
function CoursePicture({ course, seconds, parts, at }: { course: Course; seconds: number; parts: readonly TakePart[]; at: number }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const c = canvas.current?.getContext('2d');
    if (!c) return;
    const { width, height } = c.canvas;
    const ink = getComputedStyle(c.canvas).color;
    c.clearRect(0, 0, width, height);
    parts.forEach((p, i) => {
      c.fillStyle = tapeColour(i);
      c.globalAlpha = 0.35;
      c.fillRect((p.from / seconds) * width, 0, ((p.to - p.from) / seconds) * width, height);
    });
    c.globalAlpha = 1;
    const most = (values: readonly number[]) => values.reduce((m, v) => Math.max(m, v), 1e-6);
    const bars = (values: readonly number[], time: (i: number) => number, up: boolean) => {
      const top = most(values);
      const columns = new Float32Array(width);
      values.forEach((v, i) => {
        const x = Math.min(width - 1, Math.floor((time(i) / seconds) * width));
        columns[x] = Math.max(columns[x], v / top);
      });
      c.fillStyle = ink;
      columns.forEach((v, x) => {
        const tall = v * (height / 2 - 3);
        c.fillRect(x, up ? height / 2 - 1 - tall : height / 2 + 1, 1, tall);
      });
    };
    bars(course.movement, (i) => course.times[i], true);
    bars(course.level, (i) => i * SOUND_STEP, false);
    c.fillStyle = '#b5472f';
    c.fillRect((at / seconds) * width - 1, 0, 2, height);
  }, [course, seconds, parts, at]);
  return (
    <canvas
      ref={canvas}
      width={1200}
      height={120}
      className="h-24 w-full bg-rule/40 text-ink"
      role="img"
      aria-label={say`Movement above, sound below, over the whole file`}
    />
  );
}

/** Cuts the part that holds `at` in two there; too short a part is left as it is. */
function cutAt(parts: readonly TakePart[], at: number): TakePart[] {
  return parts.flatMap((p) =>
    at > p.from + 0.2 && at < p.to - 0.2
      ? [
          { ...p, to: at },
          { ...p, from: at },
        ]
      : [p],
  );
}

/** Marks in and out of a take, or cuts it into several: by hand, or proposed from its holds, silences and marks. */
export function TakeParts({ project, take, onDone }: { project: Project; take: Take; onDone: () => void }) {
  const footage = footageOf(project, take.id);
  const seconds = footage.duration;
  const frame = 1 / (footage.fps || 25);
  const { doing, problem, run, stop } = useJob();
  const [course, setCourse] = useState<Course | null>(null);
  const [how, setHow] = useState<SplitBy | 'hand'>('hand');
  const [parts, setParts] = useState<TakePart[]>(() => slotsFor(project, take, [{ from: footage.from, to: footage.to }]));
  const [nothing, setNothing] = useState('');
  const [at, setAt] = useState(footage.from);
  const picture = useThumbnail(footage.id, footage.width, at);
  const plan = project.plans.find((p) => p.id === take.plan);
  const slots = useMemo(() => (plan ? plannedSlots(project, plan) : []), [project, plan]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: read once when the panel opens
  useEffect(() => {
    void run(say`Reading movement and sound`, (tell, signal) => takeCourse(footage, tell, signal)).then((c) => c && setCourse(c));
  }, []);
  const propose = (by: SplitBy | 'hand') => {
    setHow(by);
    const found = by === 'hand' || !course ? null : proposeParts(course, by);
    setNothing(by !== 'hand' && found?.length === 0 ? NOTHING[by] : '');
    if (found?.length) setParts(slotsFor(project, take, found));
  };
  const change = (i: number, to: Partial<TakePart>) => setParts(parts.map((p, k) => (k === i ? { ...p, ...to } : p)));
  const holding = parts.findIndex((p) => at >= p.from && at <= p.to);
  const only = project.takes.filter((t) => t.mediaId === take.mediaId).length === 1;
  return (
    <section className="mt-3 space-y-3 rounded-md border border-rule p-3" data-testid="take-parts" aria-label={say`In, out and parts`}>
      <div className="grid gap-3 sm:grid-cols-[16rem_1fr]">
        <div className="bg-well" style={{ aspectRatio: footage.width / footage.height, maxHeight: '40vh' }}>
          {picture && <img src={picture} alt={say`At ${at.toFixed(2)} s`} className="h-full w-full object-contain" />}
        </div>
        <div className="min-w-0 space-y-2">
          {course && <CoursePicture course={course} seconds={seconds} parts={parts} at={at} />}
          {doing && <Working text={doing.text} done={doing.done} onStop={stop} />}
          {problem && <Note level="bad">{problem}</Note>}
          <Slider label={say`Second of the file`} value={at} min={0} max={seconds} step={frame} onChange={setAt} />
          <div className="grid grid-cols-2 gap-2 sm:grid-cols-4">
            <NumberField label={say`At`} unit="s" value={at} min={0} max={seconds} step={frame} digits={2} onChange={setAt} />
            <NumberField
              label={say`Frame`}
              unit=""
              value={Math.round(at / frame)}
              min={0}
              max={Math.round(seconds / frame)}
              onChange={(f) => setAt(Math.min(seconds, f * frame))}
            />
            <div className="col-span-2 flex flex-wrap items-end gap-2">
              <Button disabled={holding < 0 || at > parts[holding].to - frame} onClick={() => change(holding, { from: at })}>
                {say`Begin here`}
              </Button>
              <Button disabled={holding < 0 || at < parts[holding].from + frame} onClick={() => change(holding, { to: at })}>
                {say`End here`}
              </Button>
              <Button disabled={holding < 0} onClick={() => setParts(slotsFor(project, take, cutAt(parts, at)))}>
                {say`Cut here`}
              </Button>
            </div>
          </div>
        </div>
      </div>
      <div className="max-w-xs">
        {course && <SelectField label={say`Cut it`} value={how} options={WAYS} onChange={(v) => propose(v as SplitBy | 'hand')} />}
      </div>
      {nothing && <Note level="unsure">{nothing}</Note>}
      <PartList
        footage={footage}
        parts={parts}
        frame={frame}
        slots={slots}
        onChange={change}
        onShow={setAt}
        onDrop={(i) => setParts(parts.filter((_, k) => k !== i))}
      />
      <div className="flex flex-wrap gap-2">
        <Button
          kind="main"
          onClick={() => {
            cutTake(take.id, parts);
            onDone();
          }}
        >
          {parts.length > 1 ? say`Make ${parts.length} takes of it` : say`Use this part`}
        </Button>
        {take.part && only && (
          <Button
            onClick={() => {
              wholeAgain(take.id);
              onDone();
            }}
          >
            {say`Use all of the file`}
          </Button>
        )}
        <Button kind="quiet" onClick={onDone}>
          {say`Leave it as it is`}
        </Button>
        <span className="self-center text-sm text-faint">{say`The file itself stays whole.`}</span>
      </div>
    </section>
  );
}

function PartList({
  footage,
  parts,
  frame,
  slots,
  onChange,
  onShow,
  onDrop,
}: {
  footage: Footage;
  parts: readonly TakePart[];
  frame: number;
  slots: readonly { id: string; name: string }[];
  onChange: (i: number, to: Partial<TakePart>) => void;
  onShow: (at: number) => void;
  onDrop: (i: number) => void;
}) {
  return (
    <ol className="space-y-2">
      {parts.map((p, i) => (
        <li
          key={`${i} ${parts.length}`}
          className="grid grid-cols-2 items-end gap-2 border-t border-rule pt-2 sm:grid-cols-[1fr_1fr_1.5fr_auto]"
        >
          <NumberField
            label={say`Part ${i + 1} from`}
            unit="s"
            value={p.from}
            min={0}
            max={p.to - frame}
            step={frame}
            digits={2}
            onChange={(from) => onChange(i, { from })}
          />
          <NumberField
            label={say`Part ${i + 1} to`}
            unit="s"
            value={p.to}
            min={p.from + frame}
            max={footage.duration}
            step={frame}
            digits={2}
            onChange={(to) => onChange(i, { to })}
          />
          {slots.length > 0 ? (
            <SelectField
              label={say`Part ${i + 1} fills`}
              value={p.slot ?? ''}
              options={[['', 'none'], ...slots.map((s) => [s.id, s.name] as const)]}
              onChange={(slot) => onChange(i, { slot: slot || null })}
            />
          ) : (
            <span />
          )}
          <div className="flex gap-1">
            <Button kind="quiet" onClick={() => onShow(p.from)}>
              {say`Show`}
            </Button>
            {parts.length > 1 && (
              <Button kind="quiet" className="text-mark" onClick={() => onDrop(i)}>
                {say`Leave out`}
              </Button>
            )}
          </div>
        </li>
      ))}
    </ol>
  );
}
