import { ALL_FORMATS, BlobSource, EncodedPacketSink, Input, type InputVideoTrack, type VideoSample, VideoSampleSink } from 'mediabunny';
import {
  alphaFromRaw,
  BT709,
  blackPlanes,
  type ClearPlanes,
  type ColourSpace,
  type ColourTable,
  fromRgba,
  type Planes,
  planesFromRaw,
  planesOver,
  rawForm,
  rawLayout,
  reducedPlanes,
  rgbaFromRaw,
  rotateToDisplay,
  stretched,
  throughTable,
  wideTable,
} from '@/core/picture';
import { say } from '@/core/words';
import { answering } from './answering';
import { colourOf } from './colour-of';

/** Large pictures are measured, laid and cut at half size: texture enough, and memory stays small. */
export const reduceFor = ({ width, height }: { width: number; height: number }) => (Math.max(width, height) > 2200 ? 2 : 1);

/** What is to be done with a file's pixels: turned clockwise, and understood as this colour; `table` for what is wider than BT.709. */
export interface PixelReading {
  /** The planes are G', B' and R'. */
  rgb: boolean;
  rotation: 0 | 90 | 180 | 270;
  space: ColourSpace;
  table: ColourTable | null;
}

/** A live picture: upright, BT.709. */
export const AS_IT_IS: PixelReading = { rgb: false, rotation: 0, space: BT709, table: null };

/** Decoded frames of one file as upright planes. Close it when done. */
export class FrameReader implements PixelReading {
  private constructor(
    private readonly input: Input,
    private readonly track: InputVideoTrack,
    readonly rotation: 0 | 90 | 180 | 270,
    readonly space: ColourSpace,
    readonly table: ColourTable | null,
    readonly rgb: boolean,
  ) {}

  static async open(file: Blob): Promise<FrameReader> {
    const input = new Input({ formats: ALL_FORMATS, source: new BlobSource(file) });
    const track = await input.getPrimaryVideoTrack();
    if (!track) throw new Error(say`There is no picture in this file.`);
    const { space, wide, rgb } = await colourOf(track);
    return new FrameReader(input, track, await track.getRotation(), space, wide && wideTable(wide), rgb);
  }

  /** Every frame from `from` seconds on, in order. The caller closes each sample. */
  samples(from = 0, to = Number.POSITIVE_INFINITY): AsyncGenerator<VideoSample, void, unknown> {
    return answering(new VideoSampleSink(this.track).samples(from, to));
  }

  /** The frame shown at each of the ascending `times`, the first one before it begins; decodes ahead. */
  async *samplesAt(times: Iterable<number>): AsyncGenerator<VideoSample | null, void, unknown> {
    const first = await this.track.getFirstTimestamp();
    yield* answering(new VideoSampleSink(this.track).samplesAtTimestamps(Array.from(times, (t) => Math.max(first, t))));
  }

  /** Start of the group of pictures that holds `time`. */
  async keyTimeBefore(time: number): Promise<number> {
    const packet = await new EncodedPacketSink(this.track).getKeyPacket(time, { metadataOnly: true });
    return packet?.timestamp ?? 0;
  }

  /**
   * The ascending `times`, each moved back to the picture before it that stands by itself, where every one then gets a picture of
   * its own no earlier than `from`: those are decoded without the ones between.
   */
  async standAlone(times: readonly number[], from: number): Promise<number[]> {
    const out: number[] = [];
    for (const time of times) {
      const key = await this.keyTimeBefore(time);
      out.push(key >= from && key > (out.at(-1) ?? -1) + 1e-4 ? key : time);
    }
    return out;
  }

  close(): void {
    this.input.dispose();
  }
}

/** Bytes that are free for a frame on its way to its own planes; several takes are read at once. */
const free: Uint8Array[] = [];

function borrowed(size: number): Uint8Array {
  const at = free.findIndex((b) => b.length >= size);
  return at < 0 ? new Uint8Array(size) : free.splice(at, 1)[0];
}

function giveBack(bytes: Uint8Array): void {
  if (free.length < 4 && !free.includes(bytes)) free.push(bytes);
}

/**
 * A sample's pixels as upright planes of square pixels, reduced by a whole factor, with its alpha where it is clear in places. With `own`
 * the planes are safe to keep, in the bytes given where they fit; otherwise they may be overwritten by the next call.
 */
export async function planesOf(
  sample: VideoSample,
  reader: PixelReading,
  reduce: number,
  own: boolean,
  into: Uint8Array | null = null,
): Promise<ClearPlanes> {
  const { left, top } = sample.visibleRect;
  const { width, height } = { width: sample.visibleRect.width & ~1, height: sample.visibleRect.height & ~1 };
  const rect = { x: left, y: top, width, height };
  const form = rawForm(sample.format);
  let planes: Planes;
  let alpha: Uint8Array | null = null;
  if (form) {
    const { layout, size } = rawLayout(form, width, height);
    const kept = own && reduce <= 1 && sample.format === 'I420';
    const bytes = kept ? (into?.length === size ? into : new Uint8Array(size)) : borrowed(size);
    await sample.copyTo(bytes.subarray(0, size), { rect, layout });
    alpha = alphaFromRaw(bytes, form, width, height);
    if (sample.format === 'I420') planes = planesOver(bytes, width, height);
    else if (reader.rgb && form.across === 1 && form.depth === 8) planes = fromRgba(rgbaFromRaw(bytes, width, height), width, height);
    else planes = planesFromRaw(bytes, form, width, height);
    planes = reducedPlanes(planes, reduce);
    if (!kept) giveBack(bytes);
  } else {
    // R'G'B' and what the browser keeps to itself go through its own conversion.
    const bytes = new Uint8Array(sample.allocationSize({ rect, format: 'RGBA' }));
    await sample.copyTo(bytes, { rect, format: 'RGBA' });
    planes = reducedPlanes(fromRgba(bytes, width, height, reader.space), reduce);
  }
  if (form && reader.table) throughTable(planes, reader.table);
  const { squarePixelWidth, squarePixelHeight } = sample;
  const square = squarePixelWidth === sample.visibleRect.width && squarePixelHeight === sample.visibleRect.height;
  const even = (side: number) => Math.max(2, 2 * Math.floor(side / reduce / 2));
  const upright = (of: Planes) =>
    rotateToDisplay(square ? of : stretched(of, even(squarePixelWidth), even(squarePixelHeight)), reader.rotation);
  if (!alpha) return upright(planes);
  // Alpha lies as brightness does.
  return { ...upright(planes), alpha: upright(reducedPlanes({ ...blackPlanes(width, height), y: alpha }, reduce)).y };
}
