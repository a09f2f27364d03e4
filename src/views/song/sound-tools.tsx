'use client';
import { X } from 'lucide-react';
import { useEffect, useState } from 'react';
import { footageOf, type Project, type SoundClip, soundOfTake } from '@/core/document';
import { beatMapOf } from '@/core/evaluate';
import type { Sync } from '@/core/measure';
import { gainAt, gainPoints } from '@/core/song';
import { barAndBeat, describeAnchor, frameToSeconds, secondsToBeat } from '@/core/time';
import { say } from '@/core/words';
import { useSettledPlayhead } from '@/data/playhead';
import { edit } from '@/data/store';
import { changeClip, clipToPlayhead, heardInSong, layEffect, layTakeSound, meantBeat, setGain, THREADS, type Thread } from '@/data/threads';
import { Button, Note, NumberField, Tick, Working } from '@/ui/controls';
import { FileButton } from './file-button';
import { MadeSound } from './made-sound';
import { ThreadStrip } from './thread-strip';

const NAMES: Record<Thread, string> = { song: 'Song', takes: say`Take sound`, effects: 'Effects' };

/** One thread: on or off, its gain at the playhead, and the whole of it. */
function ThreadRow({ project, thread, duration }: { project: Project; thread: Thread; duration: number }) {
  const playhead = useSettledPlayhead();
  const map = beatMapOf(project);
  const time = frameToSeconds(playhead, project.frame.rate);
  const { on, gains } = project.sound[thread];
  return (
    <div className="space-y-1">
      <div className="flex items-end gap-3">
        <Tick
          className="grow"
          ticked={on}
          onTick={(heard) =>
            edit(
              heard ? say`Let the ${NAMES[thread].toLowerCase()} be heard` : say`Silence the ${NAMES[thread].toLowerCase()}`,
              (draft) => {
                draft.sound[thread].on = heard;
              },
            )
          }
        >
          {NAMES[thread]}
        </Tick>
        <div className="w-32">
          <NumberField
            label={say`Gain here`}
            unit="dB"
            value={gainAt(gainPoints(gains, map), time)}
            min={-60}
            max={12}
            step={0.5}
            digits={1}
            onChange={(gain) => setGain(thread, meantBeat(secondsToBeat(map, time)), gain)}
          />
        </div>
      </div>
      <ThreadStrip project={project} thread={thread} duration={duration} />
    </div>
  );
}

/** A sound that lies on a thread: where it begins, its gain, what of its file, its fades. */
function ClipRow({ project, clip }: { project: Project; clip: SoundClip }) {
  const media = project.media.find((m) => m.id === clip.mediaId);
  /** A number of the sound; one with an `otherwise` need not be there: without it the sound is as recorded. */
  const number = (
    label: string,
    key: 'gain' | 'from' | 'to' | 'fadeIn' | 'fadeOut' | 'speed' | 'pitch' | 'pan' | 'duck',
    unit: string,
    [min, max, step, digits]: readonly [min: number, max: number, step: number, digits: number],
    otherwise?: number,
    factor = 1,
  ) => (
    <div className="w-24">
      <NumberField
        {...{ label, unit, min, max, step, digits }}
        value={factor * (clip[key] ?? otherwise ?? 0)}
        onChange={(typed) =>
          changeClip(clip.id, say`Set the ${label.toLowerCase()} of a sound`, (c) => {
            const v = typed / factor;
            if (v === otherwise) delete (c as Partial<SoundClip>)[key];
            else c[key] = v;
          })
        }
      />
    </div>
  );
  return (
    <li className="flex flex-wrap items-end gap-2 border-t border-rule pt-2">
      <p className="w-full sm:w-56">
        {media?.name ?? say`A file that is gone`}
        <span className="num block text-sm text-faint">
          {NAMES[clip.thread]}, {describeAnchor(beatMapOf(project), clip.start)}
        </span>
      </p>
      {number('Gain', 'gain', 'dB', [-60, 12, 0.5, 1])}
      {number('From', 'from', 's', [0, clip.to - 0.01, 0.1, 2])}
      {number('To', 'to', 's', [clip.from + 0.01, media?.duration ?? clip.to, 0.1, 2])}
      {number(say`Fade in`, 'fadeIn', 's', [0, 60, 0.1, 2])}
      {number(say`Fade out`, 'fadeOut', 's', [0, 60, 0.1, 2])}
      {number('Speed', 'speed', '%', [25, 400, 5, 0], 1, 100)}
      <Tick
        ticked={clip.pitch !== undefined}
        onTick={(own) =>
          changeClip(clip.id, own ? say`Keep the pitch of a sound` : say`Let the pitch of a sound go with its speed`, (c) => {
            if (own) c.pitch = 0;
            else delete c.pitch;
          })
        }
      >
        {say`Pitch of its own`}
      </Tick>
      {clip.pitch !== undefined && number('Pitch', 'pitch', 'semitones', [-24, 24, 1, 1])}
      {number('Pan', 'pan', '', [-100, 100, 5, 0], 0)}
      {number(say`Song down by`, 'duck', 'dB', [0, 40, 1, 0], 0)}
      <Tick
        ticked={clip.reverse === true}
        onTick={(reverse) =>
          changeClip(clip.id, say`Turn a sound round`, (c) => {
            if (reverse) c.reverse = true;
            else delete c.reverse;
          })
        }
      >
        {say`Reversed`}
      </Tick>
      <Button onClick={() => clipToPlayhead(clip.id)}>{say`To the playhead`}</Button>
      <Button
        kind="quiet"
        className="w-11 px-0 sm:w-9"
        aria-label={say`Take away the sound ${media?.name ?? ''}`}
        onClick={() =>
          edit(say`Take a sound away`, (draft) => {
            draft.sound.clips = draft.sound.clips.filter((c) => c.id !== clip.id);
          })
        }
      >
        <X size={16} aria-hidden />
      </Button>
    </li>
  );
}

/** Where each of some files is heard in the song; looked for one after another as soon as this is shown. */
function useHeardTakes(song: string | undefined, files: readonly string[]): Record<string, Sync> {
  const [heard, setHeard] = useState<Record<string, Sync>>({});
  const all = files.join(' ');
  useEffect(() => {
    const stop = new AbortController();
    setHeard({});
    void (async () => {
      for (const id of song && all ? all.split(' ') : []) {
        const found = await heardInSong(id, song as string, undefined, stop.signal).catch(() => null);
        if (stop.signal.aborted) return;
        if (found) setHeard((known) => ({ ...known, [id]: found }));
      }
    })();
    return () => stop.abort();
  }, [song, all]);
  return heard;
}

/** Where in the song a take was filmed, in words. */
function heardWords(project: Project, found: Sync | undefined): string {
  if (!found) return say`Looking for the song in its sound…`;
  if (!found.ok) return say`The song is not heard in it: ${found.reason}`;
  const { bar, beat } = barAndBeat(beatMapOf(project), secondsToBeat(beatMapOf(project), found.match.offset));
  return say`Its file begins at bar ${bar} beat ${beat.toFixed(2)} of the song, to ${(found.match.spread * 1000).toFixed(1)} ms.`;
}

/** What is heard: three threads over the whole song, and the sounds that lie on them. */
export function SoundTools({ project, duration }: { project: Project; duration: number }) {
  const [doing, setDoing] = useState<{ text: string; done: number; stop: AbortController } | null>(null);
  const [said, setSaid] = useState('');
  const [chosen, choose] = useState('');
  const sounding = project.takes.filter((t) => soundOfTake(project, t.id) !== null);
  const take = sounding.find((t) => t.id === chosen) ?? sounding[0];
  const heard = useHeardTakes(project.song?.mediaId, [...new Set(sounding.map((t) => t.mediaId))]);
  const work = async (text: string, job: (onProgress: (done: number) => void, signal: AbortSignal) => Promise<string>) => {
    const stop = new AbortController();
    setDoing({ text, done: 0, stop });
    setSaid(await job((done) => setDoing({ text, done, stop }), stop.signal).catch((e: Error) => e.message));
    setDoing(null);
  };
  const fade = (key: 'fadeIn' | 'fadeOut', label: string) => (
    <div className="w-28">
      <NumberField
        label={label}
        unit="s"
        value={project.sound.song[key]}
        min={0}
        max={60}
        step={0.1}
        digits={2}
        onChange={(v) =>
          edit(say`Set the song’s ${label.toLowerCase()}`, (draft) => {
            draft.sound.song[key] = v;
          })
        }
      />
    </div>
  );
  return (
    <div className="space-y-3">
      {THREADS.map((thread) => (
        <ThreadRow key={thread} project={project} thread={thread} duration={duration} />
      ))}
      <div className="flex flex-wrap items-end gap-2">
        {fade('fadeIn', say`Song fades in`)}
        {fade('fadeOut', say`Song fades out`)}
        {take && (
          <>
            <label className="flex flex-col gap-0.5 text-sm text-faint">
              {say`Take`}
              <select
                className="min-h-11 rounded-md border border-rule bg-sheet px-2 text-ink sm:min-h-9"
                value={take.id}
                onChange={(e) => choose(e.target.value)}
              >
                {sounding.map((t) => (
                  <option key={t.id} value={t.id}>
                    {footageOf(project, t.id).name}
                  </option>
                ))}
              </select>
            </label>
            <Button
              disabled={doing !== null}
              onClick={() => void work(say`Looking for the song in this take`, (p, signal) => layTakeSound(take.id, p, signal))}
            >
              {say`Lay its sound in the song`}
            </Button>
          </>
        )}
        <FileButton
          accept="audio/*,video/*"
          disabled={doing !== null}
          onFile={(f) => void work(say`Taking in ${f.name}`, (p, signal) => layEffect(f, p, signal))}
        >
          {say`Take in an effect`}
        </FileButton>
      </div>
      <MadeSound disabled={doing !== null} work={(text, job) => void work(text, job)} />
      {take && <p className="text-sm text-faint">{heardWords(project, heard[take.mediaId])}</p>}
      {doing && <Working text={doing.text} done={doing.done} onStop={() => doing.stop.abort()} />}
      {said && (
        <div role="status">
          <Note level="unsure">{said}</Note>
        </div>
      )}
      <ul className="space-y-2">
        {project.sound.clips.map((clip) => (
          <ClipRow key={clip.id} project={project} clip={clip} />
        ))}
      </ul>
    </div>
  );
}
