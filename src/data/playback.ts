import { create } from 'zustand';
import type { Project } from '@/core/document';
import { beatMapOf, filmFrames } from '@/core/evaluate';
import { barAndBeat, barToBeat, beatsInBar, beatToSeconds, frameToSeconds, isDownbeat, nearestFrame, secondsToBeat } from '@/core/time';
import type { LoopFrames, Spot } from '@/media/read-ahead';
import { samplesOf, soundWorker } from './jobs';
import { projectTeller } from './kept-worker';
import { audio, tone } from './sound';
import { useProject } from './store';

interface Playback {
  playing: boolean;
  click: boolean;
  /** A bar of clicks is heard before the sound begins. */
  countIn: boolean;
  /** From one beat to another, over and over; null to play on. */
  loop: { from: number; to: number } | null;
}

export const usePlayback = create<Playback>(() => ({ playing: false, click: false, countIn: false, loop: null }));

let loaded: { mediaId: string; buffer: AudioBuffer } | null = null;

/** The song as a whole, for playing it at another speed on set; null without a song. */
export async function loadSong(): Promise<AudioBuffer | null> {
  const mediaId = useProject.getState().project?.song?.mediaId;
  if (!mediaId) return null;
  if (loaded?.mediaId === mediaId) return loaded.buffer;
  const sound = await samplesOf(mediaId);
  if (!sound || sound.channels.length === 0 || sound.channels[0].length === 0) return null;
  const buffer = audio().createBuffer(sound.channels.length, sound.channels[0].length, sound.sampleRate);
  for (const [c, data] of sound.channels.entries()) buffer.copyToChannel(data, c);
  loaded = { mediaId, buffer };
  return buffer;
}

/** A stretch of the song that is, was or will be heard, and when on the context's clock. */
interface Stretch {
  at: number;
  from: number;
  to: number;
  /** How often the loop has begun anew before it. */
  lap: number;
}

/** Seconds mixed at once, and how far ahead of what is heard. */
const STRETCH = 1.5;
/** The first stretch is short, so that it is heard at once. */
const FIRST = 0.4;
const AHEAD = 2;

/** Which call of `play` is being heard; what an earlier one still brings is dropped. */
let run = 0;
let stretches: Stretch[] = [];
/** All that is scheduled and has not ended. */
const sources = new Set<AudioScheduledSourceNode>();
let clickedTo = 0;
let ends = 0;

/** Song time being heard now, in seconds, and how often the loop has begun anew. */
function heardNow(): { time: number; lap: number } {
  if (!usePlayback.getState().playing) return { time: 0, lap: 0 };
  // What the context renders now leaves the loudspeaker later.
  const now = audio().currentTime - (audio().outputLatency || 0);
  const heard = stretches.findLast((s) => s.at <= now) ?? stretches[0];
  // Never its very end: that instant is the next stretch's, which with a loop is somewhere else.
  return heard ? { time: Math.min(heard.to - 1e-3, heard.from + Math.max(0, now - heard.at)), lap: heard.lap } : { time: 0, lap: 0 };
}

/** Song time being heard now, in seconds. */
export const songTime = (): number => heardNow().time;

/** Where playing is: the playhead's frame, and how often the loop has begun anew. */
export const playedSpot = (): Spot => ({ lap: stretches.length ? heardNow().lap : 0, frame: useProject.getState().playhead });

/** The loop in frames of the film; null without one. */
export function loopFrames(project: Project): LoopFrames | null {
  const { loop } = usePlayback.getState();
  if (!loop) return null;
  const map = beatMapOf(project);
  const frame = (beat: number) => nearestFrame(Math.max(0, beatToSeconds(map, beat)), project.frame.rate);
  return { first: frame(loop.from), end: Math.max(frame(loop.from) + 1, frame(loop.to)) };
}

/** The beats of a stretch of time on the context's clock, as clicks. */
function scheduleClicks(project: Project): void {
  const until = audio().currentTime + 0.25;
  if (usePlayback.getState().click) {
    const map = beatMapOf(project);
    for (const { at, from, to } of stretches) {
      const [low, high] = [Math.max(from, from + clickedTo - at), Math.min(to, from + until - at)];
      for (let beat = Math.ceil(secondsToBeat(map, low) - 1e-6); low < high; beat++) {
        const time = beatToSeconds(map, beat);
        if (time >= high) break;
        if (time >= low) clickAt(isDownbeat(map, beat), at + time - from);
      }
    }
  }
  clickedTo = Math.max(clickedTo, until);
}

/** Kept until it has ended, so that a pause silences it. */
function scheduled(source: AudioScheduledSourceNode): void {
  sources.add(source);
  source.addEventListener('ended', () => sources.delete(source));
}

function clickAt(one: boolean, at: number): void {
  scheduled(tone(one ? 1760 : 1175, 0.05, at, 0.35));
}

/** Whether what sounds is the half frame before a loop's end that is nearest to the beat after it, which is not heard. */
function turnsBack(project: Project, now: number): boolean {
  const { loop } = usePlayback.getState();
  if (!loop) return false;
  const end = beatToSeconds(beatMapOf(project), loop.to);
  const { rate } = project.frame;
  return now < end && nearestFrame(now, rate) === nearestFrame(end, rate);
}

function tick(): void {
  const { project } = useProject.getState();
  if (!project || !usePlayback.getState().playing) return;
  scheduleClicks(project);
  const now = songTime();
  const { rate } = project.frame;
  // An event's frame is the one nearest to its beat, so that is the frame seen as the beat is heard.
  const frame = nearestFrame(now, rate) - (turnsBack(project, now) ? 1 : 0);
  if (now >= ends - 2e-3) {
    pause();
    return;
  }
  if (frame !== useProject.getState().playhead) useProject.setState({ playhead: frame });
  requestAnimationFrame(tick);
}

/** Where the next stretch begins: where the last one ended, or back at the start of the loop. */
function onward(project: Project, from: number): [number, number] {
  const { loop } = usePlayback.getState();
  if (!loop) return [from, ends];
  const map = beatMapOf(project);
  const [first, last] = [Math.max(0, beatToSeconds(map, loop.from)), Math.min(ends, beatToSeconds(map, loop.to))];
  return from >= last - 0.01 || from < first - 0.01 ? [first, last] : [from, last];
}

/** Mixes one stretch and lets it be heard at an instant, or as soon as it is ready. */
async function hear(mine: number, begin: number, at: (ready: number) => number): Promise<boolean> {
  const { project } = useProject.getState();
  if (!project || mine !== run) return false;
  const { sampleRate } = audio();
  const [from, last] = onward(project, begin);
  const count = Math.round(Math.min(stretches.length ? STRETCH : FIRST, last - from) * sampleRate);
  if (count < 1) return false;
  await give(project);
  const channels = await soundWorker.call((api) => api.mix(from, count, sampleRate));
  if (!channels || mine !== run) return false;
  const buffer = audio().createBuffer(2, count, sampleRate);
  for (const [c, data] of channels.entries()) buffer.copyToChannel(data, c);
  const source = audio().createBufferSource();
  source.buffer = buffer;
  source.connect(audio().destination);
  const start = at(audio().currentTime);
  source.start(start);
  scheduled(source);
  const before = stretches.at(-1);
  const lap = (before?.lap ?? 0) + (before && from < begin - 1e-6 ? 1 : 0);
  const recent = stretches.filter((s) => s.at + STRETCH > audio().currentTime - 1);
  stretches = [...recent, { at: start, from, to: from + count / sampleRate, lap }];
  return true;
}
const give = projectTeller(soundWorker);

/** Keeps what is heard mixed ahead for as long as this run lasts. */
async function feed(mine: number): Promise<void> {
  while (mine === run) {
    const last = stretches[stretches.length - 1];
    const over = last.at + last.to - last.from;
    if (over - audio().currentTime > AHEAD) await new Promise((go) => setTimeout(go, 100));
    else if (!(await hear(mine, last.to, (now) => Math.max(over, now + 0.01)))) break;
  }
}

/** Plays what is heard from the playhead, after a bar counted in where that is wanted; the playhead follows what is heard. */
export async function play(): Promise<void> {
  const { project, playhead } = useProject.getState();
  if (!project || usePlayback.getState().playing) return;
  const mine = ++run;
  const from = Math.max(0, frameToSeconds(playhead, project.frame.rate));
  const song = project.media.find((m) => m.id === project.song?.mediaId);
  // Without a song, and beyond its end, silence is played on for a while.
  ends = song && from < song.duration - 0.05 ? song.duration : from + 600;
  stretches = [];
  // Before anything is waited for: a second press pauses.
  usePlayback.setState({ playing: true });
  const begun = await audio()
    .resume()
    .then(() => hear(mine, from, (now) => countedIn(project, from, now + 0.06)))
    .catch(() => false);
  if (!begun) {
    if (mine === run) pause();
    return;
  }
  clickedTo = stretches[0].at;
  requestAnimationFrame(tick);
  feed(mine).catch(() => mine === run && pause());
}

/** When the sound begins if a bar is counted in first from `at` on, at the tempo of where it begins. */
function countedIn(project: Project, from: number, at: number): number {
  if (!usePlayback.getState().countIn) return at;
  const map = beatMapOf(project);
  const beat = Math.round(secondsToBeat(map, from));
  const gap = beatToSeconds(map, beat + 1) - beatToSeconds(map, beat);
  // The count leads to the next beat, which may lie a little after where the sound begins.
  const first = Math.ceil(secondsToBeat(map, from) - 0.02);
  // A whole bar of the length of the one that begins or goes on there, its ones where they would be.
  const { bar, beat: counted } = barAndBeat(map, first);
  const count = beatsInBar(map, bar);
  const start = at + count * gap - (beatToSeconds(map, first) - from);
  for (let k = count; k > 0; k--)
    clickAt((Math.round(counted) - 1 + count - k) % count === 0, start + beatToSeconds(map, first) - from - k * gap);
  return start;
}

function pause(): void {
  run++;
  for (const source of sources) source.stop();
  sources.clear();
  usePlayback.setState({ playing: false });
}

export function togglePlay(): void {
  if (usePlayback.getState().playing) pause();
  else void play();
}

/** Moves the playhead to a frame, within the song or a generous hour; playing goes on from there. */
export function seek(frame: number): void {
  const { playing } = usePlayback.getState();
  if (playing) pause();
  useProject.setState({ playhead: Math.max(0, Math.round(frame)) });
  if (playing) void play();
}

/** Puts a playhead that stands before or after the film on its first frame, where there is something to see; while it plays it stays. */
export function seekIntoFilm(): void {
  const { project, playhead } = useProject.getState();
  if (!project || usePlayback.getState().playing) return;
  const [first, end] = filmFrames(project);
  if (end > first && (playhead < first || playhead >= end)) seek(first);
}

/** Loops the bar at the playhead, or plays on. */
export function loopBar(): void {
  const { project, playhead } = useProject.getState();
  if (!project) return;
  if (usePlayback.getState().loop) {
    usePlayback.setState({ loop: null });
    return;
  }
  const map = beatMapOf(project);
  const { bar } = barAndBeat(map, secondsToBeat(map, frameToSeconds(playhead, project.frame.rate)) + 1e-6);
  const [from, to] = [barToBeat(map, bar), barToBeat(map, bar + 1)];
  usePlayback.setState({ loop: { from, to } });
  const start = beatToSeconds(map, from);
  if (usePlayback.getState().playing) seek(nearestFrame(start, project.frame.rate));
}
