'use client';
import { Lock, LockOpen } from 'lucide-react';
import type { Project } from '@/core/document';
import { beatMapOf } from '@/core/evaluate';
import type { OtherReading } from '@/core/song';
import {
  type BeatMap,
  barAndBeat,
  barStart,
  beatsInBar,
  constantBeatMap,
  doubled,
  frameToSeconds,
  halved,
  nearestBeat,
  nudged,
  tempo,
  withBar1At,
  withBarLineAt,
  withBarsFrom,
  withBarsLater,
  withBeatAt,
  withLocks,
} from '@/core/time';
import { say } from '@/core/words';
import { play, usePlayback } from '@/data/playback';
import { useSettledPlayhead } from '@/data/playhead';
import { changeMap, solveRest } from '@/data/song';
import { Button, NumberField } from '@/ui/controls';
import { useHeard } from '@/views/shared';
import { useTaps } from './use-taps';

/** The beat nearest to the playhead: held, moved by a millisecond, made the first of its bar. */
function NearestBeat({ map, at }: { map: BeatMap; at: number }) {
  const index = nearestBeat(map, at);
  const { bar, beat } = barAndBeat(map, index - map.bar1);
  const locked = map.locked?.includes(index) ?? false;
  const first = barStart(map, index - map.bar1) + map.bar1;
  const [from, to] = [Math.max(0, first), Math.min(map.beats.length - 1, first + beatsInBar(map, bar))];
  const barLocked = Array.from({ length: to - from + 1 }, (_, k) => from + k).every((i) => map.locked?.includes(i));
  const move = (by: number) => changeMap(say`Move a beat`, withBeatAt(map, index, map.beats[index] + by), true);
  return (
    <fieldset className="flex flex-wrap items-center gap-2">
      <legend className="mb-1 text-sm text-faint">
        {say`Nearest beat: bar `}
        <span className="num">{bar}</span>
        {say` beat `}
        <span className="num">{Math.round(beat)}</span>
        {say` at`} <span className="num">{map.beats[index].toFixed(3)} s</span>
        {locked ? say`, locked` : ''}
      </legend>
      <Button onClick={() => move(-0.001)}>{say`1 ms earlier`}</Button>
      <Button onClick={() => move(0.001)}>{say`1 ms later`}</Button>
      <Button onClick={() => changeMap(locked ? say`Free a beat` : say`Lock a beat`, withLocks(map, index, index, !locked), true)}>
        {locked ? <LockOpen size={16} aria-hidden /> : <Lock size={16} aria-hidden />}
        {locked ? say`Free it` : say`Lock it`}
      </Button>
      <Button onClick={() => changeMap(barLocked ? say`Free a bar` : say`Lock a bar`, withLocks(map, from, to, !barLocked), true)}>
        {barLocked ? say`Free this bar` : say`Lock this bar`}
      </Button>
      <Button disabled={beat < 1.5} onClick={() => changeMap(say`Set the bar line`, withBarLineAt(map, index - map.bar1))}>
        {say`Bar line here`}
      </Button>
      <Button onClick={() => changeMap(say`This is bar 1`, withBar1At(map, map.beats[index]))}>{say`This is bar 1`}</Button>
      <div className="w-52">
        <NumberField
          label={say`Beats in a bar from bar ${bar}`}
          unit=""
          value={beatsInBar(map, bar)}
          min={bar > 1 ? 1 : 2}
          max={12}
          onChange={(n) => changeMap(say`Bars of ${Math.round(n)} from bar ${bar}`, withBarsFrom(map, first - map.bar1, Math.round(n)))}
        />
      </div>
    </fieldset>
  );
}

/** What another reading is beside the map there is: its tempo, or where its beats fall. */
function readingName({ map: { beats }, bpm }: OtherReading, now: BeatMap): string {
  if (Math.abs(bpm / tempo(now) - 1) > 0.02) return `${bpm.toFixed(1)} BPM`;
  const i = now.beats.findLastIndex((t) => t <= beats[4]);
  const late = (beats[4] - now.beats[i]) / ((now.beats[i + 1] ?? now.beats[i] + 60 / bpm) - now.beats[i]);
  if (late < 0.1 || late > 0.9) return say`as first heard`;
  return late < 0.42 ? say`a third of a beat later` : late > 0.58 ? say`two thirds of a beat later` : say`half a beat later`;
}

/** Other ways to hear the song, each a press away and heard at once with the click. */
function OtherReadings({ project, map }: { project: Project; map: BeatMap }) {
  const heard = useHeard(project.song?.mediaId);
  if (!heard?.map || heard.others.length === 0) return null;
  const readings = [{ map: heard.map, bpm: heard.bpm, likely: heard.confidence }, ...heard.others];
  const take = (next: BeatMap) => {
    changeMap(say`Hear the song another way`, next);
    usePlayback.setState({ click: true });
    if (!usePlayback.getState().playing) void play();
  };
  return (
    <fieldset className="flex flex-wrap items-center gap-2">
      <legend className="mb-1 text-sm text-faint">{say`Other ways to hear it, each played at once with the click:`}</legend>
      {readings
        .filter(({ map: other }) => other.beats[4] !== map.beats[4] || other.beats.length !== map.beats.length)
        .map((other) => (
          <Button key={`${other.bpm} ${other.map.beats[0]}`} onClick={() => take(other.map)}>
            {readingName(other, map)} <span className="num text-sm text-faint">{Math.max(1, Math.round(100 * other.likely))} %</span>
          </Button>
        ))}
    </fieldset>
  );
}

/** How the beats are put right: one of them, all of them, by tapping, or by solving again around what is right. */
export function BeatTools({ project, duration }: { project: Project; duration: number }) {
  const playhead = useSettledPlayhead();
  const { count, said, tap } = useTaps(duration);
  const map = project.song?.map ?? null;
  const at = frameToSeconds(playhead, project.frame.rate);
  const constant = (bpm: number) => {
    const now = beatMapOf(project);
    const start = map ? now.beats[Math.max(0, Math.min(now.beats.length - 1, now.bar1))] : at;
    const before = Math.floor(start / (60 / bpm));
    const even = constantBeatMap(bpm, start - (before * 60) / bpm, Math.ceil((duration * bpm) / 60), map?.beatsPerBar ?? 4);
    changeMap(say`Set a constant tempo`, { ...even, bar1: before }, true);
  };
  const locks = map?.locked?.length ?? 0;
  return (
    <div className="space-y-4">
      {map && <NearestBeat map={map} at={at} />}
      <fieldset className="flex flex-wrap items-center gap-2">
        <legend className="mb-1 text-sm text-faint">
          {map
            ? say`Tap along (T) where it is wrong: that stretch is set and locked when you stop, and the rest is solved again around it.`
            : say`Tap along (T): four taps make a beat for the whole song.`}
        </legend>
        <Button kind="main" className="min-w-36" onClick={tap}>
          {say`Tap the beat`}
          {count ? <span className="num"> {count}</span> : ''}
        </Button>
        <Button disabled={!locks} onClick={() => void solveRest()}>
          {say`Solve the rest again`}
        </Button>
        <Button disabled={!locks} onClick={() => map && changeMap(say`Free all beats`, { ...map, locked: [] }, true)}>
          {say`Free all`}
          {locks ? <span className="num"> {locks}</span> : ''}
        </Button>
      </fieldset>
      {said && <p role="status">{said}</p>}
      {map && <OtherReadings project={project} map={map} />}
      <fieldset className="flex flex-wrap items-end gap-2">
        <legend className="mb-1 text-sm text-faint">{say`All beats`}</legend>
        <Button disabled={!map} onClick={() => map && changeMap(say`Half as many beats`, halved(map))}>
          {say`Half as many`}
        </Button>
        <Button disabled={!map} onClick={() => map && changeMap(say`Twice as many beats`, doubled(map))}>
          {say`Twice as many`}
        </Button>
        <Button disabled={!map} onClick={() => map && changeMap(say`Bar lines a beat later`, withBarsLater(map))}>
          {say`Bar lines a beat later`}
        </Button>
        <Button disabled={!map} onClick={() => map && changeMap(say`Beats 10 ms earlier`, nudged(map, -0.01), true)}>
          {say`10 ms earlier`}
        </Button>
        <Button disabled={!map} onClick={() => map && changeMap(say`Beats 10 ms later`, nudged(map, 0.01), true)}>
          {say`10 ms later`}
        </Button>
        {map && (
          <div className="w-32">
            <NumberField
              label={say`Beats in a bar`}
              unit=""
              value={map.beatsPerBar}
              min={2}
              max={12}
              onChange={(n) => changeMap(say`Set the beats in a bar`, { ...map, beatsPerBar: Math.round(n), changes: undefined })}
            />
          </div>
        )}
        <div className="w-36">
          <NumberField
            label={say`Constant tempo`}
            unit="BPM"
            value={map ? tempo(map) : 120}
            min={30}
            max={300}
            step={0.1}
            digits={2}
            onChange={constant}
          />
        </div>
      </fieldset>
    </div>
  );
}
