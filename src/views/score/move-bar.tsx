'use client';
import { ChevronDown } from 'lucide-react';
import Link from 'next/link';
import { useMemo, useState } from 'react';
import type { Project } from '@/core/document';
import { posterFrame } from '@/core/edit';
import { beatMapOf } from '@/core/evaluate';
import { kindOf, MOVES, type Move } from '@/core/moves';
import { anchorAtFrame, barAndBeat } from '@/core/time';
import { say } from '@/core/words';
import { readyPlans } from '@/data/lay-plan';
import { layMove, likelyTakes, takesForMove } from '@/data/moves';
import { seek } from '@/data/playback';
import { useSettledPlayhead } from '@/data/playhead';
import { useProject } from '@/data/store';
import { Button, Note, NumberField, Working } from '@/ui/controls';
import { MoveSheet } from './move-sheet';
import { PlannedShots } from './planned-shots';
import { TakeChoice } from './take-choice';
import { TakeShelf } from './take-shelf';

/** How many moves have a button of their own; all of them are in the sheet. */
const SHOWN = 5;
const ORDER = ['First', 'Second', 'Third'];

/** Shows what was laid where it is best looked at. */
function showMade(): void {
  const { project, selectedShot } = useProject.getState();
  const made = project?.shots.find((s) => s.id === selectedShot);
  if (project && made) seek(posterFrame(project, made));
}

/** The moves, each laid on the playhead's beat from takes that are likely, or chosen here. */
export function MoveBar({ project, snap }: { project: Project; snap: (beat: number) => number }) {
  const playhead = useSettledPlayhead();
  const [chosen, setChosen] = useState<(string | undefined)[]>([]);
  const [choosing, setChoosing] = useState(false);
  // Shown to begin with, and not taken away with the first shot: the bars would jump from under the pointer.
  const [beginning] = useState(project.shots.length === 0);
  const [several, setSeveral] = useState<number | null>(null);
  const [doing, setDoing] = useState<{ text: string; done: number } | null>(null);
  const [said, setSaid] = useState('');
  const map = beatMapOf(project);
  const here = anchorAtFrame(map, playhead, project.frame.rate);
  const place = barAndBeat(map, Math.max(0, here.beat));
  const takesFor = (kind: Move['kind']) => takesForMove(project, kind, playhead, chosen, several);
  const lay = async (kind: Move['kind'], text: string) => {
    setDoing({ text, done: 0 });
    setSaid('');
    setSaid(await layMove(kind, takesFor(kind), (done) => setDoing({ text, done })).catch((e: Error) => e.message));
    setDoing(null);
    showMade();
  };
  const defaults = likelyTakes(project, 'whip', playhead);
  const ready = useMemo(() => readyPlans(project), [project]);
  const count = Math.max(2, several ?? 2);
  return (
    <section aria-label={say`Moves`} className="mb-3">
      <div className="flex flex-wrap items-center gap-2">
        <span className="text-sm text-faint">
          {say`On bar `}
          <span className="num">{place.bar}</span>
          {say` beat `}
          <span className="num">{place.beat}</span>:
        </span>
        {MOVES.slice(0, SHOWN).map(({ kind, words }) => (
          <Button
            key={kind}
            title={words.about}
            disabled={doing !== null}
            onClick={(e) => {
              // The space bar is for playing again, not for a second move.
              e.currentTarget.blur();
              void lay(kind, words.working);
            }}
          >
            {words.name}
          </Button>
        ))}
        <MoveSheet fitting={ready.map(({ kind }) => kind)} onChoose={(kind) => void lay(kind, kindOf({ kind }).words.working)} />
        {project.takes.length > 1 && (
          <Button kind="quiet" aria-expanded={choosing} onClick={() => setChoosing(!choosing)}>
            {say`From which takes`}
            <ChevronDown aria-hidden className={`ml-1 inline h-4 w-4 ${choosing ? 'rotate-180' : ''}`} />
          </Button>
        )}
      </div>
      {project.takes.length > 0 && (choosing || beginning) && (
        <div className="mt-2">
          <p className="mb-1 text-sm text-faint">{say`Drag a take onto a bar, or press it for the playhead’s beat: it is shown as it is.`}</p>
          <TakeShelf project={project} snap={snap} here={here.beat} />
        </div>
      )}
      {choosing && (
        <div className="mt-2 grid max-w-3xl grid-cols-1 items-end gap-2 sm:grid-cols-3">
          {Array.from({ length: count }, (_, i) => (
            <TakeChoice
              key={i}
              project={project}
              label={say`${ORDER[i] ?? say`${i + 1}th`} take`}
              takeId={chosen[i] ?? defaults[i % Math.max(1, defaults.length)] ?? project.takes[0].id}
              onChange={(id) => setChosen(Array.from({ length: Math.max(count, chosen.length) }, (_, k) => (k === i ? id : chosen[k])))}
            />
          ))}
          <NumberField
            label={say`Takes, where a move has several`}
            unit=""
            value={several ?? 3}
            min={2}
            max={24}
            onChange={(v) => setSeveral(Math.round(v))}
          />
        </div>
      )}
      {doing && <Working text={doing.text} done={doing.done} />}
      {said && <Note level="fix">{said}</Note>}
      <PlannedShots ready={ready} onLaid={showMade} />
      {!project.song?.map && (
        <p className="mt-2 text-sm text-faint">
          {say`No song’s beats are known: the bars are even, `}
          <span className="num">120</span>
          {say` beats a minute. A song’s own take every shot along:`}{' '}
          <Link href="/song" className="underline">
            {say`take one in, or tap its beat`}
          </Link>
          .
        </p>
      )}
    </section>
  );
}
