import { create } from 'zustand';
import { beatMapOf } from '@/core/shot';
import { beatToSeconds, frameToSeconds, nearestFrame, secondsToBeat } from '@/core/time';
import { songSamples } from './jobs';
import { audio, tone } from './sound';
import { useProject } from './store';

interface Playback {
  playing: boolean;
  click: boolean;
}

export const usePlayback = create<Playback>(() => ({ playing: false, click: false }));

let loaded: { mediaId: string; buffer: AudioBuffer } | null = null;
let source: AudioBufferSourceNode | null = null;
let startedAt = 0;
let startedFrom = 0;
let clickedTo = 0;

/** The song's samples, kept between calls; null without a song. */
export async function loadSong(): Promise<AudioBuffer | null> {
  const mediaId = useProject.getState().project?.song?.mediaId;
  if (!mediaId) return null;
  if (loaded?.mediaId === mediaId) return loaded.buffer;
  const sound = await songSamples(mediaId);
  if (!sound || sound.channels.length === 0 || sound.channels[0].length === 0) return null;
  const buffer = audio().createBuffer(sound.channels.length, sound.channels[0].length, sound.sampleRate);
  for (const [c, data] of sound.channels.entries()) buffer.copyToChannel(data, c);
  loaded = { mediaId, buffer };
  return buffer;
}

/** Song time being heard now, in seconds. */
export function songTime(): number {
  return usePlayback.getState().playing ? startedFrom + Math.max(0, audio().currentTime - startedAt) : 0;
}

function scheduleClicks(now: number): void {
  const { project } = useProject.getState();
  if (!project || !usePlayback.getState().click) return;
  const map = beatMapOf(project);
  const until = now + 0.25;
  for (let beat = Math.ceil(secondsToBeat(map, Math.max(clickedTo, now)) - 1e-6); ; beat++) {
    const at = beatToSeconds(map, beat);
    if (at >= until) break;
    if (at < clickedTo) continue;
    const one = ((beat % map.beatsPerBar) + map.beatsPerBar) % map.beatsPerBar === 0;
    tone(one ? 1760 : 1175, 0.05, startedAt + at - startedFrom, 0.35);
  }
  clickedTo = until;
}

function tick(): void {
  const { project } = useProject.getState();
  if (!project || !usePlayback.getState().playing) return;
  const now = songTime();
  scheduleClicks(now);
  const { rate } = project.frame;
  const end = loaded ? nearestFrame(loaded.buffer.duration, rate) : nearestFrame(startedFrom + 600, rate);
  const frame = Math.floor((now * rate.num) / rate.den + 1e-6);
  if (frame >= end) {
    pause();
    return;
  }
  if (frame !== useProject.getState().playhead) useProject.setState({ playhead: frame });
  requestAnimationFrame(tick);
}

/** Plays the song from the playhead; the playhead follows what is heard. */
export async function play(): Promise<void> {
  const { project, playhead } = useProject.getState();
  if (!project || usePlayback.getState().playing) return;
  const context = audio();
  await context.resume();
  const buffer = await loadSong();
  startedFrom = Math.max(0, frameToSeconds(playhead, project.frame.rate));
  startedAt = context.currentTime + 0.06;
  clickedTo = startedFrom;
  if (buffer && startedFrom < buffer.duration) {
    source = context.createBufferSource();
    source.buffer = buffer;
    source.connect(context.destination);
    source.start(startedAt, startedFrom);
  }
  usePlayback.setState({ playing: true });
  requestAnimationFrame(tick);
}

function pause(): void {
  source?.stop();
  source = null;
  usePlayback.setState({ playing: false });
}

export function togglePlay(): void {
  if (usePlayback.getState().playing) pause();
  else void play();
}

/** Moves the playhead to a frame, within the song or a generous hour; playing goes on from there. */
export function seek(frame: number): void {
  const playing = usePlayback.getState().playing;
  if (playing) pause();
  useProject.setState({ playhead: Math.max(0, Math.round(frame)) });
  if (playing) void play();
}
