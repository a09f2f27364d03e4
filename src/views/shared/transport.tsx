'use client';
import { ChevronLeft, ChevronRight, Pause, Play } from 'lucide-react';
import { type ReactNode, useLayoutEffect, useRef } from 'react';
import { useShallow } from 'zustand/react/shallow';
import type { Project } from '@/core/document';
import { beatMapOf } from '@/core/evaluate';
import { barAndBeat, barName, barToBeat, beatOfFrame, beatToSeconds, nearestFrame, toTimecode } from '@/core/time';
import { say } from '@/core/words';
import { seek, togglePlay, usePlayback } from '@/data/playback';
import { useProject } from '@/data/store';
import { Button, Tick } from '@/ui/controls';
import { useKeys } from '@/ui/keymap';

/** Moves the playhead by beats, onto whole beats. */
function stepBeats(by: number): void {
  const { project, playhead } = useProject.getState();
  if (!project) return;
  const map = beatMapOf(project);
  const beat = beatOfFrame(map, playhead, project.frame.rate);
  const target = by > 0 ? Math.floor(beat + 1e-6) + by : Math.ceil(beat - 1e-6) + by;
  seek(nearestFrame(beatToSeconds(map, target), project.frame.rate));
}

const stepFrames = (by: number) => seek(useProject.getState().playhead + by);
/** Moves the playhead by bars, onto bar lines. */
function stepBars(by: number): void {
  const { project, playhead } = useProject.getState();
  if (!project) return;
  const map = beatMapOf(project);
  const { bar, beat } = barAndBeat(map, beatOfFrame(map, playhead, project.frame.rate));
  const target = barToBeat(map, bar + by + (by < 0 && beat > 1 + 1e-6 ? 1 : 0));
  seek(nearestFrame(beatToSeconds(map, target), project.frame.rate));
}
const KEYS = {
  play: togglePlay,
  frameBack: () => stepFrames(-1),
  frameOn: () => stepFrames(1),
  beatBack: () => stepBeats(-1),
  beatOn: () => stepBeats(1),
  barBack: () => stepBars(-1),
  barOn: () => stepBars(1),
};

/** Where the playhead is; written as it moves, without anything else being drawn anew. */
function Where({ project }: { project: Project }) {
  const text = useRef<HTMLSpanElement>(null);
  useLayoutEffect(() => {
    const map = beatMapOf(project);
    const { rate } = project.frame;
    const write = () => {
      const [name, bar, beat, time] = text.current?.querySelectorAll('[data-part]') ?? [];
      const { playhead } = useProject.getState();
      const here = barAndBeat(map, beatOfFrame(map, playhead, rate));
      if (!bar) return;
      name.textContent = here.bar === 0 ? barName(0) : 'bar';
      bar.textContent = here.bar === 0 ? '' : String(here.bar);
      beat.textContent = here.beat.toFixed(2);
      time.textContent = toTimecode(playhead, rate);
    };
    write();
    return useProject.subscribe((now, before) => now.playhead !== before.playhead && write());
  }, [project]);
  return (
    <span ref={text} className="num text-sm sm:min-w-44 sm:text-base" data-testid="where">
      <span data-part="name" /> <strong data-part="bar" />
      {say` beat `}
      <strong data-part="beat" />
      <span className="ml-2 text-faint" data-part="time" />
    </span>
  );
}

/** Play, step by frame, and where the playhead is in bars, timecode and frames; `children` are more ways to listen. Of several on a page one has `keys`. */
export function Transport({ children, keys = true }: { children?: ReactNode; keys?: boolean }) {
  const project = useProject((s) => s.project);
  const { playing, click } = usePlayback(useShallow(({ playing, click }) => ({ playing, click })));
  useKeys(KEYS, keys && project !== null);
  if (!project) return null;
  return (
    <div className="flex flex-wrap items-center gap-1">
      <Button kind="main" onClick={togglePlay} aria-label={playing ? say`Pause` : say`Play`} className="w-14">
        {playing ? <Pause size={18} aria-hidden /> : <Play size={18} aria-hidden />}
      </Button>
      <Button kind="quiet" onClick={() => stepFrames(-1)} aria-label={say`One frame back`} className="px-1.5 sm:px-2">
        <ChevronLeft size={20} aria-hidden />
      </Button>
      <Button kind="quiet" onClick={() => stepFrames(1)} aria-label={say`One frame on`} className="px-1.5 sm:px-2">
        <ChevronRight size={20} aria-hidden />
      </Button>
      <Where project={project} />
      {children}
      <Tick className="ml-auto px-1 text-sm" ticked={click} onTick={(on) => usePlayback.setState({ click: on })}>
        {say`Click`}
      </Tick>
    </div>
  );
}
