'use client';
import Link from 'next/link';
import { useDeferredValue, useEffect, useState } from 'react';
import { anchorOn, posterFrame, proposePlain, SNAPS, type Snap, snapped } from '@/core/edit';
import { beatMapOf } from '@/core/evaluate';
import { beatToSeconds, nearestFrame } from '@/core/time';
import { say } from '@/core/words';
import { likelyTakes } from '@/data/moves';
import { openOverAll } from '@/data/over-all';
import { seek } from '@/data/playback';
import { addShot } from '@/data/shots';
import { useProject } from '@/data/store';
import { Button } from '@/ui/controls';
import { Later } from '@/ui/later';
import { SelectField } from '@/ui/value-field';
import { FilmPicture, ScoreLines, Transport, useBarsALine, useHeard } from '@/views/shared';
import { FindBox } from './find-box';
import { MoveBar } from './move-bar';
import { OnPicture } from './on-picture';
import { Panes } from './panes';
import { ShotPanel } from './shot-panel';
import { ShotStrip } from './shot-strip';
import { Unfolded } from './unfolded';
import { selectedOf, useScore } from './use-score';

const FOLDS = [1, 2, 4, 8];

export function ScoreView() {
  const project = useProject((s) => s.project);
  const selectedShot = useProject((s) => s.selectedShot);
  const { snap, unfolded } = useScore();
  // The button answers at once; the frames, which are many, come when they are ready.
  const opened = useDeferredValue(unfolded);
  const [bars, setBars, page] = useBarsALine();
  const [numbers, showNumbers] = useState(false);
  // Opened into frames, a shot leaves the score little room: its own line is what is seen of it. On the phone the page itself scrolls.
  useEffect(() => {
    if (!opened || !selectedShot || !window.matchMedia('(min-width: 768px)').matches) return;
    document.querySelector('[data-testid=shot-strip][aria-pressed=true]')?.scrollIntoView({ block: 'nearest' });
  }, [opened, selectedShot]);
  const hits = useHeard(project?.song?.mediaId)?.hits;
  if (!project) return null;
  const shot = selectedOf(project, selectedShot);
  const times = hits?.map((h) => h.time) ?? [];
  const snapTo = (beat: number) => snapped(project, beat, snap, times);
  /** A tap lands on what the score snaps to. */
  const tap = (beat: number) => seek(nearestFrame(beatToSeconds(beatMapOf(project), snapTo(beat)), project.frame.rate));
  const sweep = (from: number, to: number) => {
    const [low, high] = [from, to].map(snapTo);
    const [takeId] = likelyTakes(project, 'freeze', -1);
    if (high <= low || takeId === undefined) return;
    const [start, end] = [low, high].map((beat) => anchorOn(beatMapOf(project), beat, project.frame.rate));
    const made = proposePlain(project, crypto.randomUUID(), start, end, takeId);
    addShot(made);
    // The picture shows what was laid.
    seek(posterFrame(project, made));
  };
  return (
    <Panes
      picture={
        <Later>
          <FilmPicture className="h-full" wheel>
            {shot && <OnPicture project={project} shot={shot} />}
          </FilmPicture>
        </Later>
      }
      transport={
        <div className="border-b border-rule bg-sheet px-3 py-1.5">
          <Transport>
            {shot && (
              <Button
                aria-pressed={unfolded}
                data-testid="unfold"
                onClick={(e) => {
                  e.currentTarget.blur();
                  useScore.setState({ unfolded: !unfolded });
                }}
              >
                {unfolded ? say`Fold the shot` : say`Unfold the shot`}
              </Button>
            )}
          </Transport>
        </div>
      }
      unfolded={shot && opened ? <Unfolded project={project} shot={shot} /> : null}
      side={
        shot && (
          <section
            className="border-b border-rule bg-paper px-4 py-2 md:h-full md:overflow-y-auto md:border-b-0 md:py-4"
            aria-label={say`The selected shot`}
          >
            <button
              type="button"
              className="flex min-h-11 w-full items-center justify-between md:hidden"
              aria-expanded={numbers}
              onClick={() => showNumbers(!numbers)}
            >
              <span className="font-semibold">{say`The shot’s numbers`}</span>
              <span aria-hidden>{numbers ? '–' : '+'}</span>
            </button>
            <h2 className="mb-3 hidden text-lg font-semibold md:block">{shot.name}</h2>
            <div className={`pb-2 md:block ${numbers ? '' : 'hidden'}`}>
              <Later>
                <ShotPanel project={project} shot={shot} />
              </Later>
            </div>
          </section>
        )
      }
      tools={
        <Later>
          <MoveBar project={project} snap={snapTo} />
          <div className="mb-3 flex flex-wrap items-end gap-3">
            <FindBox project={project} />
            <SelectField
              label={say`Bars a line`}
              value={String(bars)}
              options={FOLDS.map((n) => [String(n), String(n)] as const)}
              onChange={(n) => setBars(Number(n))}
            />
            <SelectField
              label={say`Snap to`}
              value={snap}
              options={SNAPS.map((s) => [s, s] as const)}
              onChange={(s) => useScore.setState({ snap: s as Snap })}
            />
            <Button aria-pressed={shot !== null && shot.id === project.overAll} onClick={openOverAll}>
              {say`Over the whole film`}
            </Button>
            {project.shots.length > 0 && (
              <Link href="/check" prefetch={false} className="flex min-h-11 items-center underline sm:min-h-9">
                {say`Check the film`}
              </Link>
            )}
            {!shot && (
              <span className="text-faint">{say`Tap the page to choose a beat for a move, or drag over bars for a plain shot.`}</span>
            )}
          </div>
        </Later>
      }
      lines={
        <div ref={page}>
          <Later>
            <ScoreLines project={project} bars={bars} onBars={setBars} height={78} onBeat={tap} onSweep={sweep}>
              {(firstBeat, beats) =>
                project.shots
                  .filter((s) => s.end.beat + 1 > firstBeat && s.start.beat - 1 < firstBeat + beats)
                  .map((s) => <ShotStrip key={s.id} project={project} shot={s} firstBeat={firstBeat} beats={beats} />)
              }
            </ScoreLines>
          </Later>
        </div>
      }
    />
  );
}
