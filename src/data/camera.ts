import * as Comlink from 'comlink';
import { create } from 'zustand';
import type { LiveBump, LiveReading, PoseMatch } from '@/core/measure';
import type { PlannedShot, Slot } from '@/core/plan';
import { say } from '@/core/words';
import type { CameraApi, CameraListener } from '@/workers/camera.worker';
import { keep, keepParts, recordingName, type SlotMark } from './recordings';

interface CameraState {
  /** 'changing' while it is being opened or closed: nothing can be filmed then. */
  state: 'closed' | 'changing' | 'open';
  kind: 'simulated' | 'device' | null;
  width: number;
  height: number;
  reading: LiveReading | null;
  pose: PoseMatch | null;
  /** Seconds recorded so far; null while nothing is. */
  recorded: number | null;
  /** Bumps called out in the recording that runs or has just ended. */
  bumps: LiveBump[];
  /** What the camera could and could not lock. */
  locks: string[];
  /** A sentence when something went wrong, with what to do. */
  problem: string;
  /** Something to know that stops nothing. */
  notice: string;
  /** What is being done after a recording. */
  saving: string;
}

export const useCamera = create<CameraState>(() => ({
  state: 'closed',
  kind: null,
  width: 0,
  height: 0,
  reading: null,
  pose: null,
  recorded: null,
  bumps: [],
  locks: [],
  problem: '',
  notice: '',
  saving: '',
}));

let worker: Worker | null = null;
let api: Comlink.Remote<CameraApi> | null = null;
let stream: MediaStream | null = null;
let canvas: HTMLCanvasElement | null = null;
let alarm: () => void = () => undefined;
/** The recording being ended and kept; the camera stays until that is done. */
let ending: Promise<void> = Promise.resolve();

/** Opening and closing go one after another, however often the buttons are pressed. */
let turn: Promise<unknown> = Promise.resolve();

function inTurn(work: () => Promise<void>): Promise<void> {
  useCamera.setState({ state: 'changing' });
  const done = turn.then(work);
  turn = done.catch(() => undefined);
  return done;
}

/** Where the live picture is drawn. */
export function showIn(target: HTMLCanvasElement | null): void {
  canvas = target;
}

/** What is called when the lock leaves its limit. */
export function onAlarm(listener: () => void): void {
  alarm = listener;
}

const listener: CameraListener = {
  async picture(frame) {
    if (canvas) {
      if (canvas.width !== frame.displayWidth || canvas.height !== frame.displayHeight) {
        canvas.width = frame.displayWidth;
        canvas.height = frame.displayHeight;
      }
      canvas.getContext('2d', { alpha: false })?.drawImage(frame, 0, 0);
    }
    frame.close();
  },
  reading(reading, pose, seconds) {
    const { recorded, bumps } = useCamera.getState();
    const recording = recorded !== null;
    if (reading.bump) alarm();
    useCamera.setState({
      reading,
      pose,
      recorded: recording ? seconds : null,
      bumps: reading.bump && recording ? [...bumps, reading.bump] : bumps,
    });
  },
  ended(reason) {
    useCamera.setState({ problem: reason });
    if (useCamera.getState().recorded !== null) void stopRecording();
  },
  ready(width, height) {
    useCamera.setState({ width, height, state: 'open' });
  },
};

function freshWorker(): Comlink.Remote<CameraApi> {
  worker?.terminate();
  worker = new Worker(new URL('../workers/camera.worker.ts', import.meta.url), { type: 'module' });
  const own = worker;
  own.addEventListener('error', (e) => {
    // A worker that has died answers no more.
    own.terminate();
    if (worker === own) [worker, api] = [null, null];
    useCamera.setState({ problem: e.message || say`The camera stopped unexpectedly. Open it again.`, state: 'closed', recorded: null });
  });
  api = Comlink.wrap<CameraApi>(worker);
  return api;
}

/** Opens the simulated camera: the laundrette with its performer. */
export function openSimulated(width: number, height: number): Promise<void> {
  return inTurn(() => openRoom(width, height));
}

async function openRoom(width: number, height: number): Promise<void> {
  await shut();
  useCamera.setState({
    state: 'changing',
    kind: 'simulated',
    problem: '',
    locks: [say`The simulated camera holds focus, exposure and white balance.`],
  });
  try {
    await freshWorker().openSimulated(Comlink.proxy(listener), width, height);
  } catch (error) {
    useCamera.setState({ state: 'closed', problem: error instanceof Error ? error.message : String(error) });
  }
}

const REFUSALS: Record<string, string> = {
  NotAllowedError: say`The camera was not allowed. Allow it for this page in the browser’s settings, then open it again; or film with another camera and take the files in.`,
  NotFoundError: say`There is no camera on this device. Plug one in, use the simulated camera, or film with another camera and take the files in.`,
  NotReadableError: say`The camera is in use by another program, or does not answer. Close that program, then open the camera again.`,
  OverconstrainedError: say`The camera cannot give the planned picture. Choose a smaller size in the plan.`,
};

interface PictureProcessor {
  new (options: { track: MediaStreamTrack }): { readable: ReadableStream<never> };
}

/** Opens a real camera at the planned size and rate or the best it has below, and locks what can be locked. */
export function openDevice(plan: PlannedShot | null): Promise<void> {
  return inTurn(() => openReal(plan));
}

async function openReal(plan: PlannedShot | null): Promise<void> {
  await shut();
  useCamera.setState({ state: 'changing', kind: 'device', problem: '', locks: [] });
  try {
    const Processor = (globalThis as unknown as { MediaStreamTrackProcessor?: PictureProcessor }).MediaStreamTrackProcessor;
    if (!navigator.mediaDevices?.getUserMedia || !Processor)
      throw new Error(
        say`This browser does not hand over the camera’s pictures one by one. Film with the device’s own camera app and take the files in.`,
      );
    const { captureWidth, captureHeight, captureFps } = plan?.camera ?? { captureWidth: 1920, captureHeight: 1080, captureFps: 30 };
    const video = {
      width: { ideal: captureWidth },
      height: { ideal: captureHeight },
      frameRate: { ideal: captureFps },
      facingMode: 'environment',
    };
    const audio = { echoCancellation: false, noiseSuppression: false, autoGainControl: false };
    stream = await navigator.mediaDevices.getUserMedia({ video, audio }).catch((error: DOMException) => {
      // A device without a microphone still films.
      if (error.name === 'NotFoundError') return navigator.mediaDevices.getUserMedia({ video });
      throw error;
    });
    const [track] = stream.getVideoTracks();
    const [ear] = stream.getAudioTracks();
    track.addEventListener('ended', () =>
      listener.ended(say`The camera was unplugged or taken away. What was filmed is kept; plug it in and open it again.`),
    );
    const pictures = new Processor({ track }).readable as ReadableStream<VideoFrame>;
    const sound = ear ? (new Processor({ track: ear }).readable as ReadableStream<AudioData>) : null;
    const locks = await lockAll(track);
    useCamera.setState({ locks: ear ? locks : [...locks, say`No microphone: the film will have no sound.`] });
    await freshWorker().openStream(
      Comlink.proxy(listener),
      Comlink.transfer(pictures, [pictures]),
      sound && Comlink.transfer(sound, [sound]),
    );
  } catch (error) {
    const { name, message } = error as DOMException;
    useCamera.setState({ state: 'closed', kind: null, problem: REFUSALS[name] ?? message });
  }
}

/** Locks focus, exposure and white balance where the browser lets, and says of each whether it did. */
async function lockAll(track: MediaStreamTrack): Promise<string[]> {
  const can = (track.getCapabilities?.() ?? {}) as Record<string, unknown>;
  const out: string[] = [];
  for (const [mode, name] of [
    ['focusMode', say`Focus`],
    ['exposureMode', say`Exposure`],
    ['whiteBalanceMode', say`White balance`],
  ] as const) {
    const modes = Array.isArray(can[mode]) ? (can[mode] as string[]) : [];
    const done =
      modes.includes('manual') &&
      (await track.applyConstraints({ advanced: [{ [mode]: 'manual' } as MediaTrackConstraintSet] }).then(
        () => true,
        () => false,
      ));
    out.push(
      done ? say`${name} is locked.` : say`${name} cannot be locked from here: lock it in the camera itself, or keep the light still.`,
    );
  }
  const { width, height, frameRate } = track.getSettings();
  out.push(say`The camera gives ${width ?? 0} × ${height ?? 0} at ${Math.round(frameRate ?? 0)} fps.`);
  return out;
}

export function closeCamera(): Promise<void> {
  return inTurn(shut);
}

async function shut(): Promise<void> {
  if (useCamera.getState().recorded !== null) void stopRecording();
  await ending;
  await api?.close().catch(() => undefined);
  for (const track of stream?.getTracks() ?? []) track.stop();
  worker?.terminate();
  [worker, api, stream] = [null, null, null];
  useCamera.setState({ state: 'closed', kind: null, reading: null, pose: null, bumps: [], locks: [] });
}

/** Shows a frame of an earlier take to the pose figure, and the empty set beside it; null for none. */
export async function compareWith(
  ghost: { mediaId: string; time: number } | null,
  empty: { mediaId: string; time: number } | null,
): Promise<void> {
  await api?.compareWith(ghost, empty);
}

/** The open camera's worker; throws a sentence when none is open. */
export function camera(): Comlink.Remote<CameraApi> {
  if (!api) throw new Error(say`No camera is open.`);
  return api;
}

/** Seconds after which a recording that has not begun never will. */
const PATIENCE = 10;

/** Begins a recording for a slot. Throws a sentence when it does not begin. */
export async function startRecording(plan: PlannedShot, slot: Slot): Promise<void> {
  useCamera.setState({ bumps: [], problem: '', notice: '' });
  let timer = 0;
  const late = new Promise<never>((_, fail) => {
    timer = window.setTimeout(
      () => fail(new Error(say`The camera did not begin to record. Close it, open it again, and film on; the takes before are kept.`)),
      PATIENCE * 1000,
    );
  });
  try {
    await Promise.race([camera().startRecording(recordingName(plan.id, slot.id, Date.now())), late]);
  } finally {
    clearTimeout(timer);
  }
  useCamera.setState({ recorded: 0 });
}

/** Begins a recording; a reason it cannot is told. */
export function recordByHand(plan: PlannedShot, slot: Slot): Promise<void> {
  return startRecording(plan, slot).catch((error: Error) => useCamera.setState({ problem: error.message }));
}

/** Ends the recording and takes it in: as a take of its slot, or cut into the slots marked inside it. */
export function stopRecording(marks: readonly SlotMark[] = []): Promise<void> {
  ending = ending.then(() => endRecording(marks));
  return ending;
}

async function endRecording(marks: readonly SlotMark[]): Promise<void> {
  const { recorded, reading, bumps } = useCamera.getState();
  if (recorded === null || !api) return;
  useCamera.setState({ recorded: null, saving: say`Keeping the take` });
  const done = await api.stopRecording();
  if (done?.problem) useCamera.setState({ problem: done.problem });
  const live = reading && { corner: reading.corner, exposure: reading.light?.exposure ?? null, bumps };
  if (done) {
    const kept = marks.length ? keepParts(api, done.name, marks, live) : keep(done.name, live);
    const problem = await kept.catch((error: Error) => error.message);
    if (problem) useCamera.setState({ problem: say`The take could not be kept: ${problem} The recording itself is still here.` });
  }
  useCamera.setState({ saving: '' });
}
