'use client';
import { Pause, Play } from 'lucide-react';
import type { Project } from '@/core/document';
import { beatMapOf } from '@/core/evaluate';
import { type PlannedShot, recipeOf } from '@/core/plan';
import { barAndBeat, barToBeat, beatToSeconds, frameToSeconds, nearestFrame, secondsToBeat } from '@/core/time';
import { say } from '@/core/words';
import { play, seek, togglePlay, usePlayback } from '@/data/playback';
import { useProject } from '@/data/store';
import { Button } from '@/ui/controls';
import { ActedPicture, usePlaces } from './acted';
import { usePlanContext } from './use-set';

/** First frame of the planned shot in the song and the frame after its last. */
function framesOf(project: Project, plan: PlannedShot): [number, number] {
  const map = beatMapOf(project);
  const at = (bar: number) => Math.max(0, nearestFrame(beatToSeconds(map, barToBeat(map, bar)), project.frame.rate));
  return [at(plan.bar), Math.max(at(plan.bar) + 1, at(plan.bar + plan.bars))];
}

/** The planned shot over the song's bars, before anybody films. */
export function DryRun({ project, plan }: { project: Project; plan: PlannedShot }) {
  const playhead = useProject((s) => s.playhead);
  const playing = usePlayback((s) => s.playing);
  const places = usePlaces(plan);
  const context = usePlanContext(project, plan);
  const [first, end] = framesOf(project, plan);
  const u = Math.min(1, Math.max(0, (playhead - first) / (end - first)));
  const frame = recipeOf(plan).dryRun(context, u);
  const map = beatMapOf(project);
  const { bar, beat } = barAndBeat(map, secondsToBeat(map, frameToSeconds(Math.min(end, Math.max(first, playhead)), project.frame.rate)));
  if (playing && playhead >= end) queueMicrotask(togglePlay);
  const toggle = () => {
    if (playing) return togglePlay();
    if (playhead < first || playhead >= end - 1) seek(first);
    void play();
  };
  return (
    <div className="mx-auto max-w-4xl">
      <div className="bg-well p-2">
        <ActedPicture frame={frame} plan={plan} {...places} />
      </div>
      <div className="mt-3 flex items-center gap-3">
        <Button kind="main" onClick={toggle} aria-label={playing ? say`Stop` : say`Play the dry run`}>
          {playing ? <Pause size={18} aria-hidden /> : <Play size={18} aria-hidden />}
        </Button>
        <input
          type="range"
          className="h-11 grow accent-[var(--color-ink)]"
          min={first}
          max={end - 1}
          value={Math.min(end - 1, Math.max(first, playhead))}
          onChange={(e) => seek(Number(e.target.value))}
          aria-label={say`Frame of the dry run`}
        />
        <span className="num w-28 text-right">{say`bar ${bar} beat ${Math.floor(beat)}`}</span>
      </div>
      <p className="mt-2 text-sm text-faint">{say`Mannequins at their marks through the planned lens, over bars ${plan.bar} to ${plan.bar + Math.ceil(plan.bars) - 1} of the song${project.song ? '' : say` (120 BPM until there is one)`}. Red shows where two places overlap.`}</p>
      <ul className="mt-3 list-disc pl-5">
        {recipeOf(plan)
          .builds(context)
          .map((b) => (
            <li key={b.text}>
              <strong className="font-semibold">{b.move}:</strong> {b.text}
            </li>
          ))}
      </ul>
    </div>
  );
}
