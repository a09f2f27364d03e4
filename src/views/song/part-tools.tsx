'use client';
import { X } from 'lucide-react';
import type { Part, Project } from '@/core/document';
import { barAndBeat, beatToSeconds, frameToSeconds, nearestBarLine, nearestFrame, secondsToBeat } from '@/core/time';
import { say } from '@/core/words';
import { seek } from '@/data/playback';
import { useSettledPlayhead } from '@/data/playhead';
import { edit } from '@/data/store';
import { Button } from '@/ui/controls';
import { tapeStyle } from '@/ui/tape';

const changeParts = (label: string, change: (parts: Part[]) => Part[]) =>
  edit(label, (draft) => {
    if (draft.song) draft.song.parts = change(draft.song.parts).toSorted((a, b) => a.beat - b.beat);
  });

/** The parts of the song: gone to, named, begun at the playhead's bar, taken away. */
export function PartTools({ project }: { project: Project }) {
  const playhead = useSettledPlayhead();
  const song = project.song;
  const map = song?.map;
  if (!song || !map) return <p>{say`Parts lie on bar lines. Find or tap the beat first.`}</p>;
  const here = nearestBarLine(map, secondsToBeat(map, frameToSeconds(playhead, project.frame.rate)));
  const taken = song.parts.some((p) => p.beat === here);
  const begin = () =>
    changeParts(say`Begin a part`, (parts) => {
      const used = new Set(parts.map((p) => p.tape));
      const tape = Array.from({ length: 12 }, (_, k) => k).find((k) => !used.has(k)) ?? parts.length % 12;
      return [...parts, { beat: here, name: say`Part ${parts.length + 1}`, tape }];
    });
  return (
    <div className="space-y-3">
      <p className="text-sm text-faint">{say`Where the arrangement changes, by what is heard; parts that sound alike have the same tape.`}</p>
      <ol className="flex flex-wrap gap-2">
        {song.parts.map((part, i) => (
          <li key={part.beat} className="flex items-center gap-1 rounded-md border border-rule bg-sheet pl-1">
            <button
              type="button"
              className="num flex min-h-11 items-center gap-2 px-1 text-sm sm:min-h-9"
              aria-label={say`Go to ${part.name}, bar ${barAndBeat(map, part.beat).bar}`}
              onClick={() => seek(nearestFrame(beatToSeconds(map, part.beat), project.frame.rate))}
            >
              <span aria-hidden className="h-4 w-8 rounded-[1px]" style={tapeStyle(part.tape)} />
              {say`bar `}
              {barAndBeat(map, part.beat).bar}
            </button>
            <input
              aria-label={say`Name of the part at bar ${barAndBeat(map, part.beat).bar}`}
              className="min-h-11 w-24 bg-transparent px-1 sm:min-h-9"
              maxLength={60}
              defaultValue={part.name}
              key={part.name}
              onBlur={(e) => {
                const name = e.target.value.trim();
                if (name && name !== part.name)
                  changeParts(say`Name a part`, (parts) => parts.map((p, k) => (k === i ? { ...p, name } : p)));
              }}
              onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
            />
            <Button
              kind="quiet"
              className="w-11 px-0 sm:w-9"
              aria-label={say`Take away the part ${part.name} at bar ${barAndBeat(map, part.beat).bar}`}
              onClick={() => changeParts(say`Take a part away`, (parts) => parts.filter((_, k) => k !== i))}
            >
              <X size={16} aria-hidden />
            </Button>
          </li>
        ))}
      </ol>
      <Button disabled={taken} onClick={begin}>
        {say`A part begins at bar `}
        <span className="num">{barAndBeat(map, here).bar}</span>
      </Button>
    </div>
  );
}
