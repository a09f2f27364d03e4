'use client';
import { ChevronDown } from 'lucide-react';
import { useState } from 'react';
import type { Project } from '@/core/document';
import { posterFrame } from '@/core/edit';
import { kindOf, MOVES, type Move } from '@/core/moves';
import { anchorAtFrame, barAndBeat } from '@/core/time';
import { layMove, likelyTakes } from '@/data/moves';
import { seek } from '@/data/playback';
import { useSettledPlayhead } from '@/data/playhead';
import { useProject } from '@/data/store';
import { Button, Note, NumberField, Working } from '@/ui/controls';
import { TakeChoice } from './take-choice';

/** The moves, each laid on the playhead's beat from takes that are likely, or chosen here. */
export function MoveBar({ project }: { project: Project }) {
  const playhead = useSettledPlayhead();
  const [chosen, setChosen] = useState<Record<number, string>>({});
  const [choosing, setChoosing] = useState(false);
  const [several, setSeveral] = useState(3);
  const [doing, setDoing] = useState<{ text: string; done: number } | null>(null);
  const [said, setSaid] = useState('');
  const map = project.song?.map;
  const place = map && barAndBeat(map, Math.max(0, anchorAtFrame(map, playhead, project.frame.rate).beat));
  const likely = (kind: Move['kind']) => likelyTakes(project, kind, playhead);
  const takesFor = (kind: Move['kind']) => {
    const all = likely(kind);
    const wanted = [0, 1].flatMap((i) => (chosen[i] && project.takes.some((t) => t.id === chosen[i]) ? [chosen[i]] : []));
    const list = [...new Set([...wanted, ...all])];
    // One take may stand in for both: a whip within it, panels that lag behind one another.
    const { min, max } = kindOf({ kind }).takes;
    const count = Math.min(max, Math.max(min, max > 2 ? several : min));
    return Array.from({ length: count }, (_, i) => list[i % Math.max(1, list.length)]).filter((id) => id !== undefined);
  };
  const lay = async (kind: Move['kind'], text: string) => {
    setDoing({ text, done: 0 });
    setSaid('');
    setSaid(await layMove(kind, takesFor(kind), (done) => setDoing({ text, done })).catch((e: Error) => e.message));
    setDoing(null);
    const { project: now, selectedShot } = useProject.getState();
    const made = now?.shots.find((s) => s.id === selectedShot);
    if (now && made) seek(posterFrame(now, made));
  };
  const defaults = likely('whip');
  return (
    <section aria-label="Moves" className="mb-3">
      <div className="flex flex-wrap items-center gap-2">
        <span className="text-sm text-faint">
          {place ? (
            <>
              On bar <span className="num">{place.bar}</span> beat <span className="num">{place.beat}</span>:
            </>
          ) : (
            'On the playhead’s beat:'
          )}
        </span>
        {MOVES.map(({ kind, words }) => (
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
        {project.takes.length > 1 && (
          <Button kind="quiet" aria-expanded={choosing} onClick={() => setChoosing(!choosing)}>
            From which takes
            <ChevronDown aria-hidden className={`ml-1 inline h-4 w-4 ${choosing ? 'rotate-180' : ''}`} />
          </Button>
        )}
      </div>
      {choosing && (
        <div className="mt-2 grid max-w-3xl grid-cols-1 items-end gap-2 sm:grid-cols-[1fr_1fr_8rem]">
          {[0, 1].map((i) => (
            <TakeChoice
              key={i}
              project={project}
              label={i ? 'Second take' : 'First take'}
              takeId={chosen[i] ?? defaults[i] ?? project.takes[0].id}
              onChange={(id) => setChosen({ ...chosen, [i]: id })}
            />
          ))}
          <NumberField label="Panels of a split" unit="" value={several} min={2} max={9} onChange={(v) => setSeveral(Math.round(v))} />
        </div>
      )}
      {doing && <Working text={doing.text} done={doing.done} />}
      {said && <Note level="fix">{said}</Note>}
    </section>
  );
}
