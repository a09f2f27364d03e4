'use client';
import { useState } from 'react';
import { beatMapOf, isReveal, revealFrames } from '@/core/shot';
import { barAndBeat, frameToSeconds, secondsToBeat } from '@/core/time';
import { layReveal } from '@/data/media';
import { seek } from '@/data/playback';
import { useProject } from '@/data/store';
import { Button, Note, Working } from '@/ui/parts';
import { FilmPicture, ScoreLines, Transport, useBarsALine } from '@/views/shared';
import { LineOnPicture } from './line-on-picture';
import { ShotFields } from './shot-fields';
import { ShotStrip } from './shot-strip';
import { Unfolded } from './unfolded';

/** The downbeat a new reveal goes to: the playhead's, or the first on which there is room for a bar of lead. */
function useTargetBeat(): number {
  const project = useProject((s) => s.project);
  const playhead = useProject((s) => s.playhead);
  if (!project) return 4;
  const map = beatMapOf(project);
  const beat = secondsToBeat(map, frameToSeconds(playhead, project.frame.rate));
  return Math.max(map.beatsPerBar, Math.round(beat));
}

export function ScoreView() {
  const { project, selectedShot } = useProject();
  const [bars, setBars, page] = useBarsALine();
  const [doing, setDoing] = useState<number | null>(null);
  const [said, setSaid] = useState('');
  const [numbers, showNumbers] = useState(false);
  const target = useTargetBeat();
  if (!project) return null;
  const shot = project.shots.find((s) => s.id === selectedShot) ?? project.shots[0] ?? null;
  const map = beatMapOf(project);
  const lay = async () => {
    setDoing(0);
    setSaid(await layReveal(target, setDoing).catch((e: Error) => e.message));
    setDoing(null);
    const { project: now, selectedShot: id } = useProject.getState();
    const made = now?.shots.find((s) => s.id === id);
    if (now && made && isReveal(made)) {
      const [from, to] = revealFrames(now, made);
      seek(Math.round((from + to) / 2));
    }
  };
  const place = barAndBeat(map, target);
  const layButton = (
    <Button
      kind={shot ? 'plain' : 'main'}
      disabled={doing !== null}
      onClick={(e) => {
        // The space bar is for playing again, not for a second reveal.
        e.currentTarget.blur();
        void lay();
      }}
    >
      Curtain reveal on bar <span className="num">{place.bar}</span>
      {place.beat === 1 ? '' : <span className="num"> beat {place.beat}</span>}
    </Button>
  );
  return (
    <div className="flex min-h-full flex-col md:grid md:h-full md:grid-cols-[1fr_21rem] md:grid-rows-[46%_auto_auto_1fr]">
      <div className="sticky top-0 z-20 md:contents">
        <FilmPicture className={`h-[min(42dvh,56.25vw)] shrink-0 md:h-auto ${shot ? '' : 'md:col-span-2'}`}>
          {shot && isReveal(shot) && <LineOnPicture project={project} shot={shot} />}
        </FilmPicture>
        <div className="border-b border-rule bg-sheet px-3 py-1.5 md:col-span-2">
          <Transport />
        </div>
      </div>
      <div className="min-w-0 md:col-span-2">{shot && isReveal(shot) && <Unfolded project={project} shot={shot} />}</div>
      {shot && (
        <section
          className="shrink-0 border-b border-rule bg-paper px-4 py-2 md:col-start-2 md:row-start-1 md:min-h-0 md:overflow-y-auto md:border-0 md:py-4"
          aria-label="The selected shot"
        >
          <button
            type="button"
            className="flex min-h-11 w-full items-center justify-between md:hidden"
            aria-expanded={numbers}
            onClick={() => showNumbers(!numbers)}
          >
            <span className="font-semibold">The shot’s numbers</span>
            <span aria-hidden>{numbers ? '–' : '+'}</span>
          </button>
          <h2 className="mb-3 hidden text-lg font-semibold md:block">{shot.name}</h2>
          <div className={`pb-2 md:block ${numbers ? '' : 'hidden'}`}>
            <ShotFields project={project} shot={shot} />
          </div>
        </section>
      )}
      <div ref={page} className="grow p-3 md:col-span-2 md:min-h-0 md:overflow-y-auto">
        <div className="mb-3 flex flex-wrap items-center gap-3">
          {layButton}
          {!shot && <span className="text-faint">Choose its beat on the score first: tap where the change should begin.</span>}
        </div>
        {doing !== null && <Working text="Reading what falls in both takes" done={doing} />}
        {said && (
          <div className="mb-3">
            <Note level="fix">{said}</Note>
          </div>
        )}
        <ScoreLines project={project} bars={bars} onBars={setBars} height={78}>
          {(firstBeat, beats) =>
            project.shots.map((s) => <ShotStrip key={s.id} project={project} shot={s} firstBeat={firstBeat} beats={beats} />)
          }
        </ScoreLines>
      </div>
    </div>
  );
}
