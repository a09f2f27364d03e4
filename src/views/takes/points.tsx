'use client';
import { useCallback, useEffect, useRef, useState } from 'react';
import { footageName, footageOf, type Project, type Take, type TrackedPoint } from '@/core/document';
import { say } from '@/core/words';
import { takePicture } from '@/data/pictures';
import { addPoint, changePoint, forgetPlace, knownCourse, type PlaceAt, pointCourse, putRight, removePoint } from '@/data/points';
import type { PointCourse } from '@/media/track-point';
import { Button, Note, NumberField, Working } from '@/ui/controls';
import { Slider } from '@/ui/slider';
import { tapeColour } from '@/ui/tape';
import { SelectField, TextField } from '@/ui/value-field';
import { useJob } from '@/views/shared';
import { useNewestPicture } from './use-aligned';

/** Radius of a point that is marked, per cent of the picture's height. */
const RADIUS = 4;

/** Courses of a take's points that are known, by the point. */
function useCourses(project: Project, take: Take | undefined, again: number): Map<string, PointCourse> {
  const [courses, setCourses] = useState(new Map<string, PointCourse>());
  const points = take?.points;
  // biome-ignore lint/correctness/useExhaustiveDependencies: looked up anew when one was followed
  useEffect(() => {
    let wanted = true;
    void (async () => {
      const found = new Map<string, PointCourse>();
      for (const point of points ?? []) {
        const course = take && (await knownCourse(project, take, point).catch(() => null));
        if (course) found.set(point.id, course);
      }
      if (wanted) setCourses(found);
    })();
    return () => {
      wanted = false;
    };
  }, [points, take?.id, again]);
  return courses;
}

/** Where a point is at a second: by its course, else where it was marked. */
function placeOf(point: TrackedPoint, course: PointCourse | undefined, time: number, size: { width: number; height: number }) {
  const at = course
    ? Math.max(
        0,
        course.times.findLastIndex((t) => t <= time + 0.005),
      )
    : -1;
  if (course && at >= 0) {
    const { x, y, lost } = course.points[at];
    return { x: (100 * x) / size.width, y: (100 * y) / size.height, lost };
  }
  const [key] = [...point.keys].sort((a, b) => Math.abs(a.time - time) - Math.abs(b.time - time));
  return { x: key.x, y: key.y, lost: false };
}

/** Stretches in which a point was hidden, in words; '' for none. */
function hidden({ times, points }: PointCourse): string {
  const out: string[] = [];
  for (let i = 0; i < points.length; i++) {
    if (!points[i].lost) continue;
    const from = i;
    while (i + 1 < points.length && points[i + 1].lost) i++;
    out.push(say`${times[from].toFixed(2)} to ${times[i].toFixed(2)} s`);
  }
  return out.length > 4 ? say`${out.slice(0, 4).join(', ')} and ${out.length - 4} more` : out.join(', ');
}

function PointRow({
  project,
  take,
  point,
  index,
  course,
  chosen,
  onChoose,
  onSeek,
  onFollowed,
}: {
  project: Project;
  take: Take;
  point: TrackedPoint;
  index: number;
  course: PointCourse | undefined;
  chosen: boolean;
  onChoose: () => void;
  onSeek: (time: number) => void;
  onFollowed: () => void;
}) {
  const { doing, problem, run, stop } = useJob();
  const follow = async () => {
    if (await run(say`Following it through the take`, (tell, signal) => pointCourse(project, take, point, tell, signal))) onFollowed();
  };
  const lost = course ? hidden(course) : '';
  return (
    <li className={`space-y-2 border p-3 ${chosen ? 'border-ink' : 'border-rule'}`} data-testid="point">
      <div className="flex items-center gap-2">
        <span aria-hidden className="h-4 w-4 rounded-full border-2" style={{ borderColor: tapeColour(index) }} />
        <button type="button" className="min-h-11 grow text-left font-semibold" aria-pressed={chosen} onClick={onChoose}>
          {point.name}
        </button>
        <Button kind="quiet" className="text-mark" onClick={() => removePoint(take.id, point.id)}>
          {say`Remove`}
        </Button>
      </div>
      <TextField
        label={say`Its name`}
        value={point.name}
        max={60}
        onChange={(name) => changePoint(take.id, point.id, say`Name a point`, (p) => ({ ...p, name }))}
      />
      <NumberField
        label={say`How far around it belongs to it`}
        unit="%"
        value={point.radius}
        min={1}
        max={50}
        step={0.5}
        digits={1}
        onChange={(radius) => changePoint(take.id, point.id, say`Change the size of a point`, (p) => ({ ...p, radius }))}
      />
      <ul className="text-sm">
        {point.keys.map((key, i) => (
          <li key={key.time} className="flex items-center justify-between gap-2">
            <button type="button" className="min-h-11 underline" onClick={() => onSeek(key.time)}>
              {i ? say`Put right` : say`Marked`}
              {say` at `}
              <span className="num">{key.time.toFixed(2)} s</span>
            </button>
            {point.keys.length > 1 && (
              <Button
                onClick={() => forgetPlace(take.id, point.id, key.time)}
                aria-label={say`Forget the place at ${key.time.toFixed(2)} s`}
              >
                {say`Forget`}
              </Button>
            )}
          </li>
        ))}
      </ul>
      {doing ? (
        <Working text={doing.text} done={doing.done} onStop={stop} />
      ) : (
        !course && (
          <Button kind="main" className="w-full" onClick={() => void follow()}>
            {say`Follow ${point.name}`}
          </Button>
        )
      )}
      {problem && <Note level="bad">{problem}</Note>}
      {course && (
        <Note
          level={lost ? 'unsure' : 'good'}
        >{say`Followed on ${course.points.filter((p) => !p.lost).length} of ${course.points.length} frames.${lost ? say` Hidden or not found from ${lost}: go there and press where it is.` : ''} In the score layers and masks can be kept still by it or attached to it.`}</Note>
      )}
    </li>
  );
}

/** Places that are followed through a take: marked on the picture, followed, put right where they went astray. */
export function Points({ project }: { project: Project }) {
  const { takes } = project;
  const [id, setId] = useState(takes[0]?.id ?? '');
  const take = takes.find((t) => t.id === id) ?? takes[0];
  const media = footageOf(project, take.id);
  const [wanted, setTime] = useState(media.from);
  const time = Math.min(Math.max(wanted, media.from), Math.max(media.from, media.to - 0.04));
  const [chosen, setChosen] = useState<string | null>(null);
  const [followed, setFollowed] = useState(0);
  const courses = useCourses(project, take, followed);
  const canvas = useRef<HTMLCanvasElement>(null);
  const ask = useCallback(() => takePicture(media.id, media.width, time), [media.id, media.width, time]);
  const picture = useNewestPicture(ask);
  useEffect(() => {
    const page = canvas.current;
    if (!page || !picture) return;
    page.width = picture.width;
    page.height = picture.height;
    page.getContext('2d')?.putImageData(picture, 0, 0);
    page.dataset.drawn = time.toFixed(2);
  }, [picture, time]);
  const points = take.points ?? [];
  const own = points.find((p) => p.id === chosen);
  const press = (at: PlaceAt) => {
    if (own) putRight(take.id, own.id, at);
    else setChosen(addPoint(project, take.id, at, RADIUS));
  };
  return (
    <div className="grid gap-4 lg:grid-cols-[1fr_22rem]">
      <div className="min-w-0">
        <div className="relative bg-well" style={{ aspectRatio: media.width / media.height }}>
          <canvas
            ref={canvas}
            className="absolute inset-0 h-full w-full cursor-crosshair"
            role="img"
            aria-label={say`The take: press on what is to be followed`}
            data-testid="points-picture"
            onClick={(e) => {
              const box = e.currentTarget.getBoundingClientRect();
              const share = (v: number, from: number, size: number) => Math.round((10_000 * (v - from)) / size) / 100;
              press({
                time: Math.round(10_000 * time) / 10_000,
                x: share(e.clientX, box.left, box.width),
                y: share(e.clientY, box.top, box.height),
              });
            }}
          />
          <svg viewBox={`0 0 ${media.width} ${media.height}`} className="pointer-events-none absolute inset-0 h-full w-full" aria-hidden>
            {points.map((point, i) => {
              const { x, y, lost } = placeOf(point, courses.get(point.id), time, media);
              const [cx, cy] = [(x * media.width) / 100, (y * media.height) / 100];
              return (
                <g
                  key={point.id}
                  stroke={tapeColour(i)}
                  fill="none"
                  strokeWidth={media.height / 180}
                  strokeDasharray={lost ? '8 8' : undefined}
                >
                  <circle cx={cx} cy={cy} r={(point.radius * media.height) / 100} stroke="#fffaf0" strokeWidth={media.height / 100} />
                  <circle cx={cx} cy={cy} r={(point.radius * media.height) / 100} />
                  <path d={`M${cx - 8} ${cy}h16M${cx} ${cy - 8}v16`} />
                </g>
              );
            })}
          </svg>
        </div>
        <Slider
          label={say`Second of the take`}
          value={time}
          min={media.from}
          max={Math.max(media.from + 0.1, media.to - 0.05)}
          step={0.04}
          onChange={setTime}
        />
        <p className="mt-2 text-sm">
          {own
            ? say`Press where ${own.name} is on this frame to put it right.`
            : say`Press on something with an edge or a pattern: an eye, a button, a corner of a sign. It is followed by what is around it.`}
        </p>
      </div>
      <div className="space-y-3">
        <SelectField
          label={say`Take`}
          value={take.id}
          options={takes.map((t) => [t.id, footageName(footageOf(project, t.id))] as const)}
          onChange={(v) => {
            setId(v);
            setChosen(null);
          }}
        />
        <NumberField
          label={say`Frame at`}
          unit="s"
          value={time}
          min={media.from}
          max={media.to}
          step={0.04}
          digits={2}
          onChange={setTime}
        />
        <ul className="space-y-3">
          {points.map((point, i) => (
            <PointRow
              key={point.id}
              project={project}
              take={take}
              point={point}
              index={i}
              course={courses.get(point.id)}
              chosen={point.id === chosen}
              onChoose={() => setChosen(point.id === chosen ? null : point.id)}
              onSeek={setTime}
              onFollowed={() => setFollowed((n) => n + 1)}
            />
          ))}
        </ul>
        {own && (
          <Button className="w-full" onClick={() => setChosen(null)}>
            {say`Mark another point`}
          </Button>
        )}
      </div>
    </div>
  );
}
