'use client';
import Link from 'next/link';
import { useCallback, useEffect, useRef, useState } from 'react';
import { reanchored } from '@/core/moves';
import { beatMapOf, type Project } from '@/core/shot';
import type { SongAnalysis } from '@/core/song';
import { type BeatMap, constantBeatMap, doubled, frameToSeconds, fromTaps, halved, nudged, tempo, withBar1At } from '@/core/time';
import { songAnalysis } from '@/data/media';
import { play, songTime, usePlayback } from '@/data/playback';
import { edit, useProject } from '@/data/store';
import { Button, Empty, Heading, Note, NumberField } from '@/ui/parts';
import { ScoreLines, Transport, useBarsALine } from '@/views/shared';

/** Puts a changed map in place; what hangs on the song stays at its instants, or moves with the beats when `follow`. */
function replaceMap(label: string, next: BeatMap | null, follow = false): void {
  const { project } = useProject.getState();
  if (!project || !next) return;
  const before = beatMapOf(project);
  edit(label, (draft) => {
    if (!draft.song) return;
    if (!follow) draft.shots = reanchored(draft as Project, before, next);
    draft.song.map = next;
  });
}

function useTaps(duration: number): { count: number; tap: () => void } {
  const taps = useRef<number[]>([]);
  const [count, setCount] = useState(0);
  const tap = useCallback(() => {
    if (!usePlayback.getState().playing) {
      taps.current = [];
      setCount(0);
      void play();
      return;
    }
    const now = songTime();
    if (taps.current.length && now - taps.current[taps.current.length - 1] > 4) taps.current = [];
    taps.current.push(now);
    setCount(taps.current.length);
    const map = fromTaps(taps.current, duration);
    if (map && taps.current.length >= 4) replaceMap('Tap the beat', map);
  }, [duration]);
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      if (e.key.toLowerCase() === 't' && !e.repeat && !(e.target instanceof HTMLInputElement)) tap();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [tap]);
  return { count, tap };
}

export function SongView() {
  const project = useProject((s) => s.project);
  const [found, setFound] = useState<SongAnalysis | null>(null);
  const [bars, setBars, page] = useBarsALine();
  const mediaId = project?.song?.mediaId;
  const song = project?.media.find((m) => m.id === mediaId);
  const { count, tap } = useTaps(song?.duration ?? 60);
  useEffect(() => {
    if (mediaId) void songAnalysis(mediaId).then(setFound, () => undefined);
  }, [mediaId]);
  if (!project) return null;
  if (!project.song || !song) {
    return (
      <Empty text="No song yet. Everything in the film hangs on its beats, so take it in first.">
        <Link href="/shoot" className="inline-flex min-h-11 items-center underline">
          Take in the song under Shoot
        </Link>
      </Empty>
    );
  }
  const map = project.song.map;
  const sure = (v: number) => (v > 0.6 ? 'sure' : v > 0.35 ? 'fairly sure' : 'not sure');
  const here = () => frameToSeconds(useProject.getState().playhead, project.frame.rate);
  return (
    <div ref={page} className="mx-auto max-w-6xl p-4 sm:p-6">
      <Heading title="Song" question="Where are the beats?" />
      <div className="mb-3 space-y-3">
        {map ? (
          <p>
            <strong>{song.name}</strong>: <span className="num">{tempo(map).toFixed(2)} BPM</span>, {map.beatsPerBar} beats a bar.
            {found && (
              <span className="text-faint">
                {' '}
                Beats: {sure(found.confidence)} <span className="num">({Math.round(found.confidence * 100)} %)</span>; bar lines:{' '}
                {sure(found.downbeatConfidence)} <span className="num">({Math.round(found.downbeatConfidence * 100)} %)</span>. Listen with
                the click on, and correct below what is wrong.
              </span>
            )}
          </p>
        ) : (
          <Note level="fix">{found?.reason || 'No steady beat found. Tap the beat instead.'}</Note>
        )}
        <Transport />
        <div className="flex flex-wrap items-end gap-2">
          <Button kind="main" onClick={tap}>
            Tap the beat{count ? <span className="num"> {count}</span> : ''}
          </Button>
          <Button disabled={!map} onClick={() => map && replaceMap('This is bar 1', withBar1At(map, here()))}>
            This is bar 1
          </Button>
          <Button disabled={!map} onClick={() => map && replaceMap('Bar lines a beat later', { ...map, bar1: map.bar1 + 1 })}>
            Bar lines a beat later
          </Button>
          <Button disabled={!map} onClick={() => map && replaceMap('Half as many beats', halved(map))}>
            Half as many
          </Button>
          <Button disabled={!map} onClick={() => map && replaceMap('Twice as many beats', doubled(map))}>
            Twice as many
          </Button>
          <Button disabled={!map} onClick={() => map && replaceMap('Beats 10 ms earlier', nudged(map, -0.01), true)}>
            10 ms earlier
          </Button>
          <Button disabled={!map} onClick={() => map && replaceMap('Beats 10 ms later', nudged(map, 0.01), true)}>
            10 ms later
          </Button>
          <div className="flex gap-2">
            {map && (
              <div className="w-32">
                <NumberField
                  label="Beats in a bar"
                  unit=""
                  value={map.beatsPerBar}
                  min={2}
                  max={12}
                  onChange={(n) => replaceMap('Set the beats in a bar', { ...map, beatsPerBar: Math.round(n) })}
                />
              </div>
            )}
            <div className="w-32">
              <NumberField
                label="Constant tempo"
                unit="BPM"
                value={map ? tempo(map) : 120}
                min={30}
                max={300}
                step={0.1}
                digits={2}
                onChange={(bpm) => {
                  const start = map ? map.beats[Math.max(0, Math.min(map.beats.length - 1, map.bar1))] : here();
                  const period = 60 / bpm;
                  const before = Math.floor(start / period);
                  replaceMap(
                    'Set a constant tempo',
                    {
                      ...constantBeatMap(bpm, start - before * period, Math.ceil(song.duration / period), map?.beatsPerBar ?? 4),
                      bar1: before,
                    },
                    true,
                  );
                }}
              />
            </div>
          </div>
        </div>
      </div>
      <ScoreLines project={project} bars={bars} onBars={setBars} height={88} />
      <p className="mt-3 text-sm text-faint">
        Click on the page to move the playhead. “This is bar 1” takes the beat nearest to it. Pinch to fold more or fewer bars into a line.
      </p>
    </div>
  );
}
