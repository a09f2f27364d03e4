'use client';
import { memo, type PointerEvent, useRef, useState } from 'react';
import { footageOf, type Project, type Shot } from '@/core/document';
import { anchorOn, posterFrame, snapped } from '@/core/edit';
import { beatMapOf, layerSecond, sceneOf, shotFrames } from '@/core/evaluate';
import { layerFrames } from '@/core/layer';
import { kindOf } from '@/core/moves';
import { beatToSeconds, frameToSeconds, nearestFrame, resolveAnchor, secondsToBeat } from '@/core/time';
import { say } from '@/core/words';
import { seek, usePlayback } from '@/data/playback';
import { moveShot, trimShot } from '@/data/shots';
import { useProject } from '@/data/store';
import { tapeStyle } from '@/ui/tape';
import { useHeard, useThumbnail } from '@/views/shared';
import { useScore } from './use-score';

interface StripProps {
  project: Project;
  shot: Shot;
  firstBeat: number;
  beats: number;
}

/** The take seen on top at a frame of a shot, and its second; null for a shot of shots or colours. */
function topTake(project: Project, shot: Shot, frame: number) {
  const scene = sceneOf(project, shot);
  const layer = shot.layers.findLast((l) => {
    const [from, to] = layerFrames(scene, l);
    if (l.source.kind !== 'take' || !l.on || frame < from || frame >= to) return false;
    // Where takes are mixed, the upper one is shown from the middle on.
    return l.masks.length === 0 || !shot.move || !kindOf(shot.move).mixes || frame >= posterFrame(project, shot);
  });
  if (layer?.source.kind !== 'take') return null;
  return { media: footageOf(project, layer.source.takeId), second: layerSecond(project, scene, layer, frame) };
}

function StripPicture({ project, shot, beat }: { project: Project; shot: Shot; beat: number }) {
  const frame = nearestFrame(beatToSeconds(beatMapOf(project), beat), project.frame.rate);
  const top = topTake(project, shot, frame);
  // Times are rounded, so that a shot moved by a frame asks for no new picture.
  const src = useThumbnail(top?.media.id ?? '', top?.media.width ?? 0, Math.round((top?.second ?? 0) * 5) / 5);
  return (
    <div className="h-full min-w-0 flex-1 bg-well">
      {src && <img src={src} alt="" draggable={false} className="h-full w-full object-cover" />}
    </div>
  );
}

/** Where the layers of a shot lie along it, for the tape at its foot: beats from and to, and the tape. */
function tapes(project: Project, shot: Shot): { from: number; to: number; tape: number }[] {
  const scene = sceneOf(project, shot);
  const beatOf = (frame: number) => secondsToBeat(scene.map, frameToSeconds(frame, scene.rate));
  return shot.layers
    .filter((l) => l.on)
    .map((l) => {
      const [from, to] = layerFrames(scene, l);
      return { from: beatOf(from), to: beatOf(to), tape: l.tape };
    });
}

type Grip = 'whole' | 'start' | 'end';

/**
 * The part of a shot that lies on one line of the score: a strip of paper with pictures, pinned to its beats. Dragging moves it, dragging
 * an end trims it; both come to rest on what the score snaps to. Arrow keys do the same by beats.
 */
function Strip({ project, shot, firstBeat, beats }: StripProps) {
  const selected = useProject((s) => s.selectedShot === shot.id);
  const joined = useScore((s) => s.more.includes(shot.id));
  const snap = useScore((s) => s.snap);
  const hits = useHeard(project.song?.mediaId)?.hits;
  const [live, setLive] = useState<{ grip: Grip; by: number } | null>(null);
  const began = useRef<{ grip: Grip; x: number; width: number } | null>(null);
  const startBy = live && live.grip !== 'end' ? live.by : 0;
  const endBy = live && live.grip !== 'start' ? live.by : 0;
  const from = Math.max(firstBeat, shot.start.beat + startBy);
  const to = Math.min(firstBeat + beats, shot.end.beat + endBy);
  if (to <= from) return null;
  const percent = (beat: number) => ((beat - firstBeat) / beats) * 100;
  const inside = (beat: number) => ((Math.min(to, Math.max(from, beat)) - from) / (to - from)) * 100;
  const times = hits?.map((h) => h.time) ?? [];
  /** Beats by which the grip is dragged, its edge on what the score snaps to. */
  const dragged = (e: PointerEvent): number => {
    if (!began.current) return 0;
    const by = ((e.clientX - began.current.x) / began.current.width) * beats;
    const edge = began.current.grip === 'end' ? shot.end.beat : shot.start.beat;
    return Math.abs(by) * began.current.width < beats * 4 ? 0 : snapped(project, edge + by, snap, times) - edge;
  };
  const grab = (grip: Grip) => (e: PointerEvent) => {
    e.stopPropagation();
    const line = e.currentTarget.closest('[data-line]')?.getBoundingClientRect();
    e.currentTarget.setPointerCapture(e.pointerId);
    if (line) began.current = { grip, x: e.clientX, width: line.width };
  };
  const follow = (e: PointerEvent) => began.current && setLive({ grip: began.current.grip, by: dragged(e) });
  const drop = (e: PointerEvent) => {
    if (!began.current) return;
    const { grip } = began.current;
    const by = dragged(e);
    began.current = null;
    setLive(null);
    pick(e.shiftKey);
    if (Math.abs(by) > 1e-6) put(grip, by);
  };
  const put = (grip: Grip, by: number) => {
    if (grip === 'whole') return moveShot(shot.id, by);
    const map = beatMapOf(project);
    const edge = (grip === 'start' ? shot.start.beat : shot.end.beat) + by;
    trimShot(shot.id, grip, resolveAnchor(map, anchorOn(map, edge, project.frame.rate), project.frame.rate));
  };
  const pick = (together: boolean) => {
    const { selectedShot } = useProject.getState();
    if (together && selectedShot && selectedShot !== shot.id)
      useScore.setState(({ more }) => ({ more: more.includes(shot.id) ? more.filter((id) => id !== shot.id) : [...more, shot.id] }));
    else {
      useProject.setState({ selectedShot: shot.id });
      useScore.setState({ more: [] });
      const [first, end] = shotFrames(project, shot);
      const { playhead } = useProject.getState();
      // What is chosen is seen, unless the film is playing.
      if ((playhead < first || playhead >= end) && !usePlayback.getState().playing) seek(posterFrame(project, shot));
    }
  };
  const cancel = () => {
    began.current = null;
    setLive(null);
  };
  const pictures = Math.max(1, Math.min(12, Math.ceil(to - from)));
  return (
    // biome-ignore lint/a11y/useSemanticElements: a draggable strip that holds pictures
    <div
      role="button"
      tabIndex={0}
      aria-label={say`${shot.name}, bar ${Math.floor(shot.start.beat / beatMapOf(project).beatsPerBar) + 1}`}
      aria-pressed={selected}
      data-testid="shot-strip"
      className={`absolute top-1.5 bottom-4 flex cursor-grab touch-none flex-col shadow-[0_1px_4px_rgba(40,30,20,0.35)] ${selected ? 'z-10 outline-2 outline-mark' : joined ? 'outline-2 outline-mark outline-dashed' : ''}`}
      style={{ left: `${percent(from)}%`, width: `${percent(to) - percent(from)}%` }}
      onClick={(e) => e.stopPropagation()}
      onDoubleClick={() => useScore.setState({ unfolded: true })}
      onKeyDown={(e) => {
        if (e.key === 'Enter') {
          // Enter once selects, once more unfolds.
          if (selected && !e.shiftKey) useScore.setState(({ unfolded }) => ({ unfolded: !unfolded }));
          else pick(e.shiftKey);
        }
        const way = { ArrowLeft: -1, ArrowRight: 1 }[e.key];
        if (!way || !e.ctrlKey) return;
        e.preventDefault();
        e.stopPropagation();
        put(e.shiftKey ? 'end' : e.altKey ? 'start' : 'whole', way * (snap === 'half beat' ? 0.5 : 1));
      }}
      onPointerDown={grab('whole')}
      onPointerMove={follow}
      onPointerUp={drop}
      onPointerCancel={cancel}
    >
      <div className="flex min-h-0 grow overflow-hidden">
        {Array.from({ length: pictures }, (_, i) => (
          <StripPicture key={i} project={project} shot={shot} beat={from - startBy + ((i + 0.5) / pictures) * (to - from)} />
        ))}
      </div>
      <div className="relative h-2 shrink-0 bg-rule">
        {tapes(project, shot).map(({ from: low, to: high, tape }, i) => (
          <div
            key={i}
            className="absolute inset-y-0"
            style={{ left: `${inside(low + startBy)}%`, width: `${inside(high + endBy) - inside(low + startBy)}%`, ...tapeStyle(tape) }}
          />
        ))}
      </div>
      {selected &&
        (['start', 'end'] as const).map((grip) => {
          const here = grip === 'start' ? shot.start.beat + startBy >= firstBeat : shot.end.beat + endBy <= firstBeat + beats;
          return (
            here && (
              <div
                key={grip}
                data-testid={`trim-${grip}`}
                className={`absolute inset-y-0 w-11 cursor-ew-resize touch-none sm:w-4 ${grip === 'start' ? '-left-5 sm:-left-2' : '-right-5 sm:-right-2'}`}
                onPointerDown={grab(grip)}
                onPointerMove={follow}
                onPointerUp={drop}
                onPointerCancel={cancel}
              >
                <span
                  className={`absolute inset-y-1 w-1.5 rounded-full bg-mark ${grip === 'start' ? 'left-5 sm:left-2' : 'right-5 sm:right-2'}`}
                />
              </div>
            )
          );
        })}
    </div>
  );
}

/** Whether all a strip shows of its project, but its own shot, is the same. */
const sameGround = (a: Project, b: Project) => a.song === b.song && a.frame === b.frame && a.media === b.media && a.takes === b.takes;

/** Strips of shots that an edit leaves alone are not made again. */
export const ShotStrip = memo(
  Strip,
  (a, b) => a.shot === b.shot && a.firstBeat === b.firstBeat && a.beats === b.beats && sameGround(a.project, b.project),
);
