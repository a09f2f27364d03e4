import * as Comlink from 'comlink';
import { VideoSample } from 'mediabunny';
import { LiveMeter, type LiveReading, lumaOf, type PoseMatch, poseMatch } from '@/core/measure';
import { BT709, type Planes } from '@/core/picture';
import { say } from '@/core/words';
import { openMedia } from '@/media/files';
import { AS_IT_IS, FrameReader, planesOf } from '@/media/frames';
import { partRecording, Recording, savedFromCrash } from '@/media/recording';
import { SimulatedCamera, type Simulation } from '@/media/simulated-camera';

/** What the page hears from a running camera. */
export interface CameraListener {
  picture(frame: VideoFrame): Promise<void>;
  reading(reading: LiveReading, pose: PoseMatch | null, recorded: number): void;
  /** The camera or the recording ended by itself; the sentence says why. */
  ended(reason: string): void;
  ready(width: number, height: number): void;
}

/** Readings a second. */
const READINGS = 6;
const REFERENCE_FRAMES = 5;

let listener: Comlink.Remote<CameraListener> | null = null;
let simulated: SimulatedCamera | null = null;
let reader: ReadableStreamDefaultReader<VideoFrame> | null = null;
let recording: Recording | null = null;
/** The running recording has ended by itself: no more pictures, and one sentence only. */
let over = false;
/** That the set-up shows too little to follow has been said. */
let complained = false;
let meter: LiveMeter | null = null;
let wanted: Planes[] | null = null;
let ghost: { picture: Planes; empty: Planes | null } | null = null;
let size = { width: 0, height: 0 };
let showing = false;
let lastRead = 0;
let hasSound = false;

/** Factor that brings a picture to about 1400 pixels across, enough to be measured. */
const reduceFor = (width: number) => Math.max(1, Math.round(width / 1400));
/** When the running recording began, on the camera's clock; 0 while none runs. */
const began = () => recording?.began ?? 0;
const clock = (frame: VideoFrame) => frame.timestamp / 1e6;

async function measure(frame: VideoFrame): Promise<void> {
  const sample = new VideoSample(frame.clone());
  try {
    const planes = await planesOf(sample, AS_IT_IS, reduceFor(sample.codedWidth), true);
    if (wanted) {
      wanted.push(planes);
      if (wanted.length >= REFERENCE_FRAMES) {
        const frames = wanted;
        wanted = null;
        try {
          meter = new LiveMeter(frames, BT709);
        } catch (error) {
          // A camera that is still opening its eyes shows too little; it is told once, and the next pictures are tried.
          meter = null;
          wanted = [];
          if (!complained) void listener?.ended(error instanceof Error ? error.message : String(error));
          complained = true;
        }
      }
    }
    if (!meter) return;
    const reading = meter.read(planes, clock(frame));
    if (reading.bump) reading.bump.time -= began();
    const shape = (p: Planes) => p.width / p.height;
    const alike = ghost && Math.abs(shape(ghost.picture) / shape(planes) - 1) < 0.02;
    const pose = ghost && alike ? poseMatch(lumaOf(planes), lumaOf(ghost.picture), ghost.empty && lumaOf(ghost.empty)) : null;
    void listener?.reading(reading, pose, recording?.seconds ?? 0);
  } finally {
    sample.close();
  }
}

/** Ends the running recording from here; the first reason is the one that is told. */
function breakOff(reason: string): void {
  if (!over) void listener?.ended(reason);
  over = true;
}

async function stopRecording(): Promise<{ name: string; seconds: number; problem: string } | null> {
  const ending = recording;
  recording = null;
  if (!ending) return null;
  const { seconds } = ending;
  await ending.end();
  const { problem } = ending;
  const full = problem?.name === 'QuotaExceededError';
  return {
    name: ending.name,
    seconds,
    problem: problem
      ? full
        ? say`The storage is full. The ${seconds.toFixed(0)} seconds recorded before are kept.`
        : say`The recording broke off (${problem.message}). The ${seconds.toFixed(0)} seconds before are kept.`
      : '',
  };
}

async function take(frame: VideoFrame): Promise<void> {
  const now = clock(frame);
  if (frame.displayWidth !== size.width || frame.displayHeight !== size.height) {
    const turned = size.width > 0 && frame.displayWidth === size.height;
    size = { width: frame.displayWidth, height: frame.displayHeight };
    meter = null;
    wanted = [];
    void listener?.ready(size.width, size.height);
    if (recording)
      breakOff(
        turned
          ? say`The phone was turned, so the recording was ended. What was filmed is kept; turn it back and go on.`
          : say`The picture’s size changed, so the recording was ended. What was filmed is kept.`,
      );
  }
  if (recording && !over) {
    if (recording.problem) breakOff(say`The recording cannot be written any further.`);
    else await recording.addPicture(new VideoSample(frame.clone()));
  }
  if (!showing && listener) {
    showing = true;
    const shown = frame.clone();
    void listener.picture(Comlink.transfer(shown, [shown])).finally(() => {
      showing = false;
    });
  }
  if (now - lastRead >= 1 / READINGS - 0.005) {
    lastRead = now;
    await measure(frame);
  }
  frame.close();
}

/** A frame of a stored take. */
interface FramePlace {
  mediaId: string;
  time: number;
}

async function frameAt({ mediaId, time }: FramePlace): Promise<Planes> {
  const reader = await FrameReader.open(await openMedia(mediaId));
  try {
    for await (const sample of reader.samplesAt([time])) {
      if (!sample) break;
      try {
        return await planesOf(sample, reader, reduceFor(sample.codedWidth), true);
      } finally {
        sample.close();
      }
    }
  } finally {
    reader.close();
  }
  throw new Error(say`There is no picture at that place of the take.`);
}

const api = {
  async openSimulated(hears: CameraListener, width: number, height: number): Promise<void> {
    listener = hears as unknown as Comlink.Remote<CameraListener>;
    simulated = await SimulatedCamera.open(width, height, take);
    hasSound = false;
  },

  /** Takes over a camera's pictures and, when given, its sound. */
  openStream(hears: CameraListener, pictures: ReadableStream<VideoFrame>, sound: ReadableStream<AudioData> | null): void {
    listener = hears as unknown as Comlink.Remote<CameraListener>;
    hasSound = sound !== null;
    reader = pictures.getReader();
    void (async () => {
      for (;;) {
        const next = await reader.read();
        if (next.done) break;
        await take(next.value);
      }
      void listener?.ended(say`The camera was unplugged or taken by another program. What was filmed is kept; choose a camera again.`);
    })().catch((error: Error) => void listener?.ended(say`The camera stopped: ${error.message}`));
    if (sound)
      void (async () => {
        const ear = sound.getReader();
        for (;;) {
          const next = await ear.read();
          if (next.done) return;
          if (recording) await recording.addSound(next.value);
          else next.value.close();
        }
      })().catch(() => undefined);
  },

  simulate(change: Partial<Simulation>): void {
    simulated?.change(change);
  },
  /** Knocks the simulated camera; returns the second of the running recording, null while none runs. */
  knock(dx: number, dy: number, turn: number): number | null {
    const at = simulated?.knock(dx, dy, turn);
    return at !== undefined && recording?.began != null ? at - recording.began : null;
  },
  /** Begins the simulated performance this many seconds from now. */
  act(inSeconds: number): void {
    simulated?.act(inSeconds);
  },

  /** Remembers the next pictures as the set-up that everything is measured against. */
  remember(): void {
    complained = false;
    meter = null;
    wanted = [];
  },
  async compareWith(picture: FramePlace | null, empty: FramePlace | null): Promise<void> {
    ghost = picture && { picture: await frameAt(picture), empty: empty && (await frameAt(empty)) };
  },

  async startRecording(name: string): Promise<void> {
    if (recording) throw new Error(say`A recording is running already.`);
    recording = await Recording.begin(name, { ...size, fps: simulated ? simulated.fps : 30, sound: hasSound });
    over = false;
  },
  stopRecording,

  async close(): Promise<void> {
    simulated?.close();
    await reader?.cancel().catch(() => undefined);
    await stopRecording();
  },

  saved: savedFromCrash,
  part: partRecording,
};
export type CameraApi = typeof api;
Comlink.expose(api);
