'use client';
import type { Project } from '@/core/document';
import { type BeatMap, beatToSeconds, secondsToBeat } from '@/core/time';
import { say } from '@/core/words';
import type { HeardSong } from '@/media/song';
import { tapeStyle } from '@/ui/tape';
import { ScoreLines } from '@/views/shared';
import { unsureStretches } from './unsure';

interface LineProps {
  project: Project;
  map: BeatMap;
  heard: HeardSong;
  unsure: readonly [number, number][];
  firstBeat: number;
  beats: number;
}

/** What lies on one line of the folded page: the parts along its head, hits as wedges on its foot, hatching where beats are not sure. */
function LineMarks({ project, map, heard, unsure, firstBeat, beats }: LineProps) {
  const parts = project.song?.parts ?? [];
  const last = firstBeat + beats;
  const share = (beat: number) => Math.max(0, Math.min(100, ((beat - firstBeat) / beats) * 100));
  const [from, to] = [beatToSeconds(map, firstBeat), beatToSeconds(map, last)];
  const hits = heard.hits.filter((h) => h.time >= from && h.time < to && (h.kind !== 'stroke' || h.strength > 0.45));
  return (
    <>
      {parts.map((part, i) => {
        const end = Math.min(parts[i + 1]?.beat ?? Number.POSITIVE_INFINITY, secondsToBeat(map, heard.duration));
        if (part.beat >= last || end <= firstBeat) return null;
        return (
          <div
            key={part.beat}
            className="pointer-events-none absolute top-0"
            style={{ left: `${share(part.beat)}%`, width: `${share(end) - share(part.beat)}%` }}
          >
            <span aria-hidden className="absolute inset-x-0 top-0 h-2" style={tapeStyle(part.tape)} />
            {part.beat >= firstBeat && (
              <span className="absolute top-2 left-0 bg-sheet px-1 text-sm leading-4 font-semibold whitespace-nowrap">{part.name}</span>
            )}
          </div>
        );
      })}
      {unsure
        .filter(([a, b]) => b > from && a < to)
        .map(([a, b]) => {
          const [x, y] = [share(secondsToBeat(map, a)), share(secondsToBeat(map, b))];
          return (
            <div
              key={a}
              title={say`The beats are not sure here`}
              className="pointer-events-none absolute bottom-0 h-3 opacity-60"
              style={{
                left: `${x}%`,
                width: `${y - x}%`,
                backgroundImage: 'repeating-linear-gradient(45deg, var(--color-warn) 0 1.5px, transparent 1.5px 6px)',
              }}
            />
          );
        })}
      <svg className="pointer-events-none absolute inset-0 h-full w-full overflow-visible" aria-hidden>
        {hits.map(({ time, kind, strength }) => {
          const tall = 4 + 12 * strength;
          const half = tall / 2.6;
          // Set on the line's foot: a stroke points up, a stop opens to where the sound was, a drop to where it goes on.
          const shape =
            kind === 'stop'
              ? `0,0 0,${-tall} ${-tall},0`
              : kind === 'drop'
                ? `0,0 0,${-tall} ${tall},0`
                : `${-half},0 0,${-tall} ${half},0`;
          return (
            <svg key={`${kind}${time}`} x={`${share(secondsToBeat(map, time))}%`} y="100%" overflow="visible" aria-hidden>
              <polygon
                points={shape}
                fill={kind === 'stroke' ? 'var(--color-ink)' : 'var(--color-mark)'}
                opacity={kind === 'stroke' ? 0.35 + 0.4 * strength : 0.95}
              />
            </svg>
          );
        })}
      </svg>
    </>
  );
}

/** The whole song on the folded page. */
export function SongLines({
  project,
  heard,
  bars,
  onBars,
}: {
  project: Project;
  heard: HeardSong | null;
  bars: number;
  onBars: (bars: number) => void;
}) {
  const map = project.song?.map;
  const unsure = heard ? unsureStretches(heard, map ?? null) : [];
  return (
    <ScoreLines project={project} bars={bars} onBars={onBars} height={88}>
      {map && heard
        ? (first, beats) => <LineMarks project={project} map={map} heard={heard} unsure={unsure} firstBeat={first} beats={beats} />
        : undefined}
    </ScoreLines>
  );
}
