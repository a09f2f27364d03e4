'use client';
import { ChevronLeft, ChevronRight, Pause, Play } from 'lucide-react';
import { type ReactNode, useEffect } from 'react';
import { beatMapOf } from '@/core/shot';
import { barAndBeat, beatOfFrame, beatToSeconds, nearestFrame, toTimecode } from '@/core/time';
import { seek, togglePlay, usePlayback } from '@/data/playback';
import { useProject } from '@/data/store';
import { Button, Tick } from '@/ui/parts';

/** Moves the playhead by beats, onto whole beats. */
function stepBeats(by: number): void {
  const { project, playhead } = useProject.getState();
  if (!project) return;
  const map = beatMapOf(project);
  const beat = beatOfFrame(map, playhead, project.frame.rate);
  const target = by > 0 ? Math.floor(beat + 1e-6) + by : Math.ceil(beat - 1e-6) + by;
  seek(nearestFrame(beatToSeconds(map, target), project.frame.rate));
}

function onKey(e: KeyboardEvent): void {
  const at = e.target as HTMLElement;
  if (at.closest('input, textarea, select, [role="slider"], [role="menu"], [role="dialog"]')) return;
  const { project, playhead } = useProject.getState();
  if (!project) return;
  if (e.key === ' ' && !at.closest('button, a, summary')) togglePlay();
  else if (e.key === 'ArrowLeft' || e.key === 'ArrowRight') {
    const way = e.key === 'ArrowRight' ? 1 : -1;
    if (e.altKey) stepBeats(way * beatMapOf(project).beatsPerBar);
    else if (e.shiftKey) stepBeats(way);
    else seek(playhead + way);
  } else return;
  e.preventDefault();
}

/** Play, step by frame, and where the playhead is in bars, timecode and frames; `children` are more ways to listen. */
export function Transport({ children }: { children?: ReactNode }) {
  const project = useProject((s) => s.project);
  const playhead = useProject((s) => s.playhead);
  const { playing, click } = usePlayback();
  useEffect(() => {
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);
  if (!project) return null;
  const map = beatMapOf(project);
  const { bar, beat } = barAndBeat(map, beatOfFrame(map, playhead, project.frame.rate));
  return (
    <div className="flex flex-wrap items-center gap-1">
      <Button kind="main" onClick={togglePlay} aria-label={playing ? 'Pause' : 'Play'} className="w-14">
        {playing ? <Pause size={18} aria-hidden /> : <Play size={18} aria-hidden />}
      </Button>
      <Button kind="quiet" onClick={() => seek(playhead - 1)} aria-label="One frame back" className="px-1.5 sm:px-2">
        <ChevronLeft size={20} aria-hidden />
      </Button>
      <Button kind="quiet" onClick={() => seek(playhead + 1)} aria-label="One frame on" className="px-1.5 sm:px-2">
        <ChevronRight size={20} aria-hidden />
      </Button>
      <span className="num text-sm sm:min-w-44 sm:text-base" data-testid="where">
        bar <strong>{bar}</strong> beat <strong>{beat.toFixed(2)}</strong>
        <span className="ml-2 text-faint">{toTimecode(playhead, project.frame.rate)}</span>
      </span>
      {children}
      <Tick className="ml-auto px-1 text-sm" ticked={click} onTick={(on) => usePlayback.setState({ click: on })}>
        Click
      </Tick>
    </div>
  );
}
