import { say } from '@/core/words';
import type { Sound } from './sound';

/** The part of the stretcher that runs where sound is rendered; it is made for an AudioWorklet and is driven here block by block instead. */
interface StretchProcessor {
  port: { onmessage: (event: { data: unknown[] }) => void; postMessage(message: unknown[]): void };
  outputLatencySeconds: number;
  process(inputs: Float32Array[][], outputs: Float32Array[][]): boolean;
}
type ProcessorClass = new (options: {
  processorOptions: object;
  numberOfOutputs: number;
  outputChannelCount: number[];
}) => StretchProcessor;

/** What the module finds in the scope of an AudioWorklet. */
interface WorkletScope {
  AudioWorkletProcessor?: unknown;
  registerProcessor?: (name: string, made: ProcessorClass) => void;
  currentTime?: number;
  sampleRate?: number;
}
const scope = globalThis as WorkletScope;

let loading: Promise<ProcessorClass> | null = null;
function processorClass(): Promise<ProcessorClass> {
  loading ??= (async () => {
    let made: ProcessorClass | null = null;
    scope.AudioWorkletProcessor ??= class {
      port = { onmessage: () => undefined, postMessage: () => undefined };
    };
    scope.registerProcessor = (_, processor) => {
      made = processor;
    };
    await import('signalsmith-stretch');
    if (!made) throw new Error(say`The part that keeps the pitch of a sound could not be loaded.`);
    return made;
  })();
  loading.catch(() => {
    loading = null;
  });
  return loading;
}

/** Samples made at once: the run may change its speed from one to the next. */
const BLOCK = 256;
/** As fast as a run may be for its sound to be told apart. */
const FASTEST = 16;
/** Slower than this the picture stands, and so does its sound: it is silent. */
const STANDING = 0.02;

async function startedProcessor(channels: number): Promise<StretchProcessor> {
  const Processor = await processorClass();
  return new Promise((resolve) => {
    const processor = new Processor({ processorOptions: {}, numberOfOutputs: 1, outputChannelCount: [channels] });
    processor.port.postMessage = (message) => {
      if (message[0] === 'ready') resolve(processor);
    };
  });
}

/** One way through a sound: as recorded, or end for end. */
class Way {
  private message = 0;
  private readonly block: Float32Array[];
  private readonly nothing: Float32Array[];

  private constructor(
    private readonly processor: StretchProcessor,
    channels: readonly Float32Array[],
  ) {
    this.block = channels.map(() => new Float32Array(BLOCK));
    this.nothing = channels.map(() => new Float32Array(BLOCK));
    this.call('addBuffers', channels);
  }

  static async through(channels: readonly Float32Array[]): Promise<Way> {
    return new Way(await startedProcessor(channels.length), channels);
  }

  /** Seconds from what is put in to what is heard. */
  get latency(): number {
    return this.processor.outputLatencySeconds;
  }

  private call(method: string, ...args: unknown[]): void {
    this.processor.port.onmessage({ data: [this.message++, method, ...args] });
  }

  /** The next samples, while `input` seconds of the sound are put in at a rate; silence is put in where it is not over `STANDING`. */
  next(input: number, rate: number, semitones: number): readonly Float32Array[] {
    const output = (scope.currentTime ?? 0) + this.latency;
    const active = rate > STANDING;
    this.call('schedule', { output, input, rate: Math.min(FASTEST, rate), semitones, active });
    this.processor.process(active ? [] : [this.nothing], [this.block]);
    return this.block;
  }
}

/**
 * A sound run through at changing speed, backwards too, with its pitch kept: `count` samples at its own rate, of which the one `t` seconds in
 * is heard at `secondAt(t)` seconds of the sound, higher by `semitones` (lower below 0). Where the run stands it is silent. The stretching is Signalsmith Stretch (MIT), a phase
 * vocoder on several bands.
 */
export async function pitchKept(
  { channels, sampleRate }: Sound,
  secondAt: (t: number) => number,
  count: number,
  semitones = 0,
): Promise<Float32Array<ArrayBuffer>[]> {
  scope.sampleRate = sampleRate;
  scope.currentTime = 0;
  const length = channels[0].length / sampleRate;
  const forwards = await Way.through(channels.map((c) => c.slice()));
  let backwards: Way | null = null;
  const { latency } = forwards;
  const out = channels.map(() => new Float32Array(count));
  for (let at = -BLOCK * Math.ceil((latency * sampleRate) / BLOCK); at < count; at += BLOCK) {
    scope.currentTime = at / sampleRate;
    // What is put in now is heard after the latency.
    const t = Math.max(0, scope.currentTime + latency);
    const here = secondAt(t);
    const rate = ((secondAt(t + BLOCK / sampleRate) - here) * sampleRate) / BLOCK;
    if (rate < -STANDING && !backwards) backwards = await Way.through(channels.map((c) => c.toReversed()));
    for (const samples of [forwards.next(here, rate, semitones), backwards?.next(length - here, -rate, semitones)]) {
      if (!samples || at + BLOCK <= 0) continue;
      for (const [c, own] of samples.entries())
        for (let i = Math.max(0, -at); i < Math.min(BLOCK, count - at); i++) out[c][at + i] += own[i];
    }
  }
  return out;
}
