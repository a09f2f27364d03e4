'use client';
import { useVirtualizer } from '@tanstack/react-virtual';
import { memo, type PointerEvent, useEffect, useMemo, useRef, useState } from 'react';
import { footageOf, type Project, type Shot } from '@/core/document';
import { withMoved } from '@/core/edit';
import { beatMapOf, layerSecond, sceneOf } from '@/core/evaluate';
import { layerTime, numberAt, numberKindOf, placeFrame, type Scene, trackOf } from '@/core/layer';
import { valueAt } from '@/core/motion';
import { beatOfFrame, frameToSeconds } from '@/core/time';
import { say } from '@/core/words';
import { seek } from '@/data/playback';
import { useSettledPlayhead } from '@/data/playhead';
import { changeKeys, keysOf, type NumberAt, removeKeys, setKey } from '@/data/shots';
import { useProject } from '@/data/store';
import { useKeys } from '@/ui/keymap';
import { useThumbnail } from '@/views/shared';
import { KeyTools } from './key-tools';
import { shownNumber, useScore } from './use-score';

const CELL = 54;
const THREAD = 104;

/** What a number is called, its unit and range. */
function kindOf(shot: Shot, at: NumberAt) {
  const layer = shot.layers.find((l) => l.id === at.layerId);
  const kind = layer ? numberKindOf(layer, at.partId, at.name) : null;
  return kind && layer ? { kind, layer } : null;
}

/** A number's value at a film frame, set or not. */
function numberHere(scene: Scene, shot: Shot, at: NumberAt, frame: number): number {
  return numberAt(scene, keysOf(shot, at), kindOf(shot, at)?.kind.otherwise ?? 0, frame);
}

/** One frame; drawn anew only where it becomes, or is no longer, the one at the playhead. */
const Cell = memo(function Cell({
  project,
  scene,
  shot,
  at,
  frame,
  here,
}: {
  project: Project;
  scene: Scene;
  shot: Shot;
  at: NumberAt;
  frame: number;
  here: boolean;
}) {
  const layer = shot.layers.find((l) => l.id === at.layerId);
  const takeId = layer?.source.kind === 'take' ? layer.source.takeId : null;
  const media = takeId ? footageOf(project, takeId) : null;
  const src = useThumbnail(media?.id ?? '', media?.width ?? 0, layer && media ? layerSecond(project, scene, layer, frame) : 0);
  const beat = Number.isInteger(beatOfFrame(scene.map, frame, scene.rate));
  return (
    <button
      type="button"
      onClick={() => seek(frame)}
      aria-label={say`Frame ${frame}`}
      className={`absolute top-0 h-11 overflow-hidden bg-well ${beat ? 'border-l-[3px] border-ink' : 'border-l border-rule'} ${here ? 'outline-2 -outline-offset-2 outline-mark' : ''}`}
      style={{ width: CELL, left: (frame - scene.first) * CELL }}
    >
      {src && <img src={src} alt="" draggable={false} className="h-full w-full object-cover" />}
    </button>
  );
});

/** How many frames of the take a frame of the film steps: 0 is shown again, 2 leaves one out. */
function steps(project: Project, scene: Scene, shot: Shot, at: NumberAt, frame: number): string {
  const layer = shot.layers.find((l) => l.id === at.layerId);
  if (layer?.source.kind !== 'take') return '';
  const { fps } = footageOf(project, layer.source.takeId);
  const time = layerTime(scene, layer);
  const index = (f: number) => Math.floor(time.sourceAt(frameToSeconds(f, scene.rate)) * fps + 1e-6);
  const step = index(frame) - index(frame - 1);
  return step === 1 ? '' : step === 0 ? say`again` : step > 1 ? say`skips ${step - 1}` : '';
}

/** Low and high of the thread's axis: what the keys reach, with room around. */
function axisOf(values: readonly number[], least: number): [number, number] {
  const [low, high] = [Math.min(...values), Math.max(...values)];
  const room = Math.max(least, 0.12 * (high - low));
  return [low - room, high + room];
}

/** The shot opened into single frames: a cell each, and one number's thread with its keys as beads. */
export function Unfolded({ project, shot }: { project: Project; shot: Shot }) {
  const chosenNumber = useScore((s) => s.number);
  const at = useMemo(() => shownNumber(shot, chosenNumber), [shot, chosenNumber]);
  const known = at && kindOf(shot, at);
  return at && known ? (
    <Thread project={project} shot={shot} at={at} kind={known.kind} name={say`${known.kind.label} of ${known.layer.name}`} />
  ) : null;
}

/** Two corners of a box drawn over the thread, pixels of it. */
interface Corners {
  x0: number;
  y0: number;
  x1: number;
  y1: number;
}

interface ThreadProps {
  project: Project;
  shot: Shot;
  at: NumberAt;
  kind: NonNullable<ReturnType<typeof kindOf>>['kind'];
  name: string;
}

function Thread({ project, shot, at, kind, name }: ThreadProps) {
  const playhead = useSettledPlayhead();
  const { chosen, boxing } = useScore();
  const whole = useRef<HTMLElement>(null);
  const scroller = useRef<HTMLDivElement>(null);
  const area = useRef<HTMLDivElement>(null);
  const [box, setBox] = useState<Corners | null>(null);
  const [drag, setDrag] = useState<{ from: number; frame: number; value: number; moved: boolean } | null>(null);
  const scene = useMemo(() => sceneOf(project, shot), [project, shot]);
  const { first, end } = scene;
  const count = end - first;
  const keys = keysOf(shot, at);
  const track = keys ? trackOf(scene, keys) : [];
  const [low, high] = axisOf([...track.map((k) => k.value), kind.otherwise], 6 * kind.step);
  const yOf = (value: number) => THREAD - ((value - low) / (high - low)) * THREAD;
  useEffect(() => {
    const box = scroller.current;
    if (!box) return;
    const x = (playhead - first + 0.5) * CELL;
    if (x < box.scrollLeft + CELL || x > box.scrollLeft + box.clientWidth - CELL) box.scrollLeft = x - box.clientWidth / 2;
  }, [playhead, first]);
  // On the phone the page scrolls under the picture: what is opened comes out from under it.
  useEffect(() => {
    if (!window.matchMedia('(min-width: 768px)').matches) whole.current?.scrollIntoView({ block: 'start' });
  }, []);
  const windowed = useVirtualizer({
    horizontal: true,
    count,
    getScrollElement: () => scroller.current,
    estimateSize: () => CELL,
    overscan: 6,
  });
  const inside = playhead >= first && playhead < end;
  const onThisFrame = (work: (playhead: number) => void) => () => {
    const { playhead } = useProject.getState();
    if (playhead >= first && playhead < end) work(playhead);
  };
  useKeys({
    setKey: onThisFrame((playhead) => setKey(at, playhead, numberHere(scene, shot, at, playhead))),
    removeKey: onThisFrame((playhead) => removeKeys(at, chosen.size ? chosen : new Set([playhead]))),
  });
  const where = (e: PointerEvent) => {
    const box = area.current?.getBoundingClientRect();
    if (!box) return { frame: first, value: 0 };
    const value = low + (1 - (e.clientY - box.top) / THREAD) * (high - low);
    return {
      frame: Math.min(end - 1, Math.max(first - 1, first + Math.floor((e.clientX - box.left) / CELL))),
      value: Math.min(kind.max, Math.max(kind.min, value)),
    };
  };
  const spot = (e: PointerEvent) => {
    const whole = area.current?.getBoundingClientRect();
    return { x: e.clientX - (whole?.left ?? 0), y: e.clientY - (whole?.top ?? 0) };
  };
  const within = (v: number, a: number, b: number) => v >= Math.min(a, b) && v <= Math.max(a, b);
  const inBox = ({ x0, y0, x1, y1 }: Corners) =>
    new Set(track.filter((k) => within((k.frame - first + 0.5) * CELL, x0, x1) && within(yOf(k.value), y0, y1)).map((k) => k.frame));
  const pick = (frame: number, add: boolean) => useScore.setState({ chosen: add ? new Set([...chosen, frame]) : new Set([frame]) });
  /** Moves a key to a frame and value, and with it all that are chosen where it is one of them. */
  const moveTo = (from: number, toFrame: number, toValue: number) => {
    const together = chosen.has(from) ? chosen : new Set([from]);
    const by = toValue - (track.find((k) => k.frame === from)?.value ?? toValue);
    const step = Math.min(end - 1, Math.max(first - 1, toFrame)) - from;
    const landed = new Set([...together].map((f) => f + step));
    changeKeys(at, together.size > 1 ? say`Move keys` : say`Move a key`, (now, s, p) => {
      const there = sceneOf(p, s);
      return withMoved(there, now, together, (f) => f + step).map((k) =>
        landed.has(placeFrame(there, k))
          ? { ...k, value: Math.round(Math.min(kind.max, Math.max(kind.min, k.value + by)) * 100) / 100 }
          : k,
      );
    });
    useScore.setState({ chosen: landed });
    seek(from + step);
  };
  const drop = (e: PointerEvent) => {
    if (!drag) return;
    const { from, moved } = drag;
    const target = where(e);
    setDrag(null);
    if (!moved) {
      pick(from, e.shiftKey);
      seek(from);
      return;
    }
    moveTo(from, target.frame, target.value);
  };
  const shown = windowed.getVirtualItems().map(({ index }) => first + index);
  const path = shown
    .flatMap((f) => [f, f + 0.25, f + 0.5, f + 0.75])
    .map((f, i) => `${i ? 'L' : 'M'}${((f - first + 0.5) * CELL).toFixed(1)} ${yOf(keys ? valueAt(track, f) : kind.otherwise).toFixed(1)}`)
    .join(' ');
  return (
    <section
      ref={whole}
      aria-label={say`The shot, frame by frame`}
      className="scroll-mt-[calc(min(38dvh,56.25vw)+7.5rem)] border-y border-rule bg-sheet md:scroll-mt-0"
    >
      <p className="px-3 pt-1.5 text-sm text-faint">
        {name}, {kind.unit || say`as a number`}
      </p>
      <div ref={scroller} className="overflow-x-auto" data-testid="unfolded">
        <div className="relative" style={{ width: count * CELL }}>
          <div className="relative h-11">
            {shown.map((frame) => (
              <Cell key={frame} project={project} scene={scene} shot={shot} at={at} frame={frame} here={frame === playhead} />
            ))}
          </div>
          <div
            ref={area}
            className={`relative ${boxing ? 'touch-none' : ''}`}
            style={{ height: THREAD }}
            data-testid="thread"
            onPointerDown={(e) => {
              if ((e.pointerType !== 'mouse' && !boxing) || (e.target as HTMLElement).closest('button')) return;
              e.currentTarget.setPointerCapture(e.pointerId);
              const at = spot(e);
              setBox({ x0: at.x, y0: at.y, x1: at.x, y1: at.y });
            }}
            onPointerMove={(e) => {
              const at = spot(e);
              if (box) setBox({ ...box, x1: at.x, y1: at.y });
            }}
            onPointerUp={() => {
              if (box) useScore.setState({ chosen: inBox(box), boxing: false });
              setBox(null);
            }}
            onPointerCancel={() => setBox(null)}
          >
            <svg width={count * CELL} height={THREAD} className="block" role="img" aria-label={say`${name} over the frames`}>
              <path d={`M0 ${yOf(kind.otherwise)} H${count * CELL}`} stroke="var(--color-rule)" strokeDasharray="3 5" />
              {shown
                .filter((f) => Number.isInteger(beatOfFrame(beatMapOf(project), f, scene.rate)))
                .map((f) => (
                  <path key={f} d={`M${(f - first) * CELL + 1} 0 V${THREAD}`} stroke="var(--color-ink)" strokeWidth="2" opacity="0.5" />
                ))}
              {inside && <rect x={(playhead - first) * CELL} width={CELL} height={THREAD} fill="var(--color-mark)" opacity="0.1" />}
              <path d={path} fill="none" stroke="var(--color-ink)" strokeWidth="1.8" />
              {at.name === 'speed' || shot.layers.find((l) => l.id === at.layerId)?.limits
                ? shown.map((f) => (
                    <text key={f} x={(f - first) * CELL + 4} y={THREAD - 5} fontSize="10" className="num" fill="var(--color-faint)">
                      {steps(project, scene, shot, at, f)}
                    </text>
                  ))
                : null}
              {box && (
                <rect
                  x={Math.min(box.x0, box.x1)}
                  y={Math.min(box.y0, box.y1)}
                  width={Math.abs(box.x1 - box.x0)}
                  height={Math.abs(box.y1 - box.y0)}
                  fill="var(--color-mark)"
                  fillOpacity="0.12"
                  stroke="var(--color-mark)"
                />
              )}
              {drag?.moved && (
                <text
                  x={(drag.frame - first + 0.5) * CELL + 14}
                  y={Math.max(14, yOf(drag.value) - 10)}
                  className="num"
                  fontSize="13"
                  fill="var(--color-ink)"
                >
                  {drag.value.toFixed(kind.digits)} {kind.unit}
                </text>
              )}
            </svg>
            {track.map((k, i) => {
              const now = drag?.from === k.frame ? drag : k;
              const picked = chosen.has(k.frame) || k.frame === playhead;
              return (
                <button
                  key={i}
                  type="button"
                  aria-label={say`Key ${i + 1}: ${k.value.toFixed(kind.digits)} ${kind.unit}`}
                  aria-pressed={chosen.has(k.frame)}
                  className="absolute flex h-11 w-11 -translate-1/2 cursor-grab touch-none items-center justify-center"
                  style={{ left: (now.frame - first + 0.5) * CELL, top: Math.min(THREAD, Math.max(0, yOf(now.value))) }}
                  data-testid="bead"
                  onPointerDown={(e) => {
                    e.currentTarget.setPointerCapture(e.pointerId);
                    setDrag({ from: k.frame, frame: k.frame, value: k.value, moved: false });
                  }}
                  onPointerMove={(e) => {
                    if (drag?.from !== k.frame) return;
                    const next = where(e);
                    const far = drag.moved || next.frame !== k.frame || Math.abs(yOf(next.value) - yOf(k.value)) > 5;
                    setDrag({ from: k.frame, moved: far, ...(far ? next : { frame: k.frame, value: k.value }) });
                  }}
                  onPointerUp={drop}
                  onPointerCancel={() => setDrag(null)}
                  onKeyDown={(e) => {
                    const [frames, steps] = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[e.key] ?? [
                      0, 0,
                    ];
                    const chooses = e.key === 'Enter' || e.key === ' ';
                    if (!frames && !steps && !chooses) return;
                    e.preventDefault();
                    // On a key the arrows move it; the playhead's own are not meant.
                    e.stopPropagation();
                    if (chooses) {
                      pick(k.frame, e.shiftKey);
                      seek(k.frame);
                    } else {
                      const by = e.shiftKey ? 10 : 1;
                      moveTo(k.frame, k.frame + by * frames, k.value + by * steps * kind.step);
                    }
                  }}
                >
                  <span className={`block h-4 w-4 rounded-full border-2 border-ink ${picked ? 'bg-mark' : 'bg-sheet'}`} />
                </button>
              );
            })}
          </div>
        </div>
      </div>
      <KeyTools shot={shot} at={at} kind={kind} scene={scene} value={numberHere(scene, shot, at, playhead)} inside={inside} />
    </section>
  );
}
