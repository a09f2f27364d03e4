import { BufferTarget, Output, VideoSample, VideoSampleSource, WebMOutputFormat } from 'mediabunny';
import { bleedIntoClear, fromRgba } from '@/core/picture';
import { say } from '@/core/words';

/** A picture of a film and how long it is shown. */
interface Shown {
  image: VideoFrame | ImageBitmap;
  seconds: number;
}

/** Bits a pixel of each frame, and the least a second: graphics with hard edges stay sharp. */
const BITS = 0.5;
const LEAST = 2e6;
/** Seconds a picture of an animation is shown where its file says nothing, or next to nothing, as browsers do. */
const USUAL = 0.1;
/** Pictures a film may be made of. */
const MOST = 20_000;

/** Rows of RGBA of an even size; an odd one is made even by its last row and column again. */
function evenPixels(image: VideoFrame | ImageBitmap, width: number, height: number): Uint8ClampedArray {
  const context = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true });
  if (!context) throw new Error(say`The pictures could not be read: this browser gives no canvas to a worker.`);
  context.drawImage(image, 0, 0, width, height);
  if (!('displayWidth' in image)) context.drawImage(image, 0, 0);
  return context.getImageData(0, 0, width, height).data;
}

const sizeOf = (image: VideoFrame | ImageBitmap) =>
  'displayWidth' in image ? { width: image.displayWidth, height: image.displayHeight } : image;

/** One picture as I420 planes with alpha after them, packed; clear pixels have the colour of their edge. */
function packed(data: Uint8ClampedArray, width: number, height: number): Uint8Array<ArrayBuffer> {
  const count = width * height;
  const out = new Uint8Array(count * 2.5);
  const alpha = out.subarray(count * 1.5);
  for (let i = 0; i < count; i++) alpha[i] = data[4 * i + 3];
  if (alpha.some((a) => a < 255)) bleedIntoClear(data, width, height);
  const { y, u, v } = fromRgba(new Uint8Array(data.buffer), width, height);
  out.set(y);
  out.set(u, count);
  out.set(v, count * 1.25);
  return out;
}

/**
 * A film (WebM, VP9 with alpha) of pictures shown one after another, all drawn at the size of the first; each is closed. Throws a sentence
 * where there are none or they cannot be encoded.
 */
async function filmOf(pictures: AsyncIterable<Shown>, rate: number, told: (done: number) => void): Promise<Blob> {
  const target = new BufferTarget();
  const output = new Output({ format: new WebMOutputFormat(), target });
  let source: VideoSampleSource | null = null;
  let [width, height, at, count] = [0, 0, 0, 0];
  for await (const { image, seconds } of pictures) {
    try {
      if (!source) {
        ({ width, height } = sizeOf(image));
        [width, height] = [Math.max(2, (width + 1) & ~1), Math.max(2, (height + 1) & ~1)];
        source = new VideoSampleSource({
          codec: 'vp9',
          bitrate: Math.max(LEAST, Math.round(width * height * rate * BITS)),
          keyFrameInterval: 1,
          latencyMode: 'quality',
          alpha: 'keep',
        });
        output.addVideoTrack(source, { frameRate: rate });
        await output.start();
      }
      const sample = new VideoSample(packed(evenPixels(image, width, height), width, height), {
        format: 'I420A',
        codedWidth: width,
        codedHeight: height,
        timestamp: at,
        duration: seconds,
        colorSpace: { primaries: 'bt709', transfer: 'bt709', matrix: 'bt709', fullRange: false },
      });
      await source.add(sample);
      sample.close();
      at += seconds;
      if (++count > MOST) throw new Error(say`There are more than ${MOST} pictures: make it a film first.`);
      told(count);
    } finally {
      image.close();
    }
  }
  if (count === 0) throw new Error(say`There are no pictures in it.`);
  await output.finalize();
  return new Blob([target.buffer as ArrayBuffer], { type: 'video/webm' });
}

/** The pictures of an animated GIF, WebP, PNG or AVIF in order. */
async function* animated(decoder: ImageDecoder, count: number): AsyncGenerator<Shown> {
  for (let frameIndex = 0; frameIndex < count; frameIndex++) {
    const { image } = await decoder.decode({ frameIndex });
    const seconds = (image.duration ?? 0) / 1e6;
    yield { image, seconds: seconds > 0.01 ? seconds : USUAL };
  }
}

/** An animated picture as a film, run through once; null where the file is no picture that moves. */
export async function filmOfAnimation(file: File, onProgress: (done: number) => void): Promise<Blob | null> {
  if (!file.type.startsWith('image/') || !('ImageDecoder' in self) || !(await ImageDecoder.isTypeSupported(file.type))) return null;
  const decoder = new ImageDecoder({ data: file.stream(), type: file.type });
  try {
    await decoder.completed;
    const track = decoder.tracks.selectedTrack;
    if (!track?.animated || track.frameCount < 2) return null;
    const { frameCount } = track;
    return await filmOf(animated(decoder, frameCount), 25, (n) => onProgress(n / frameCount));
  } finally {
    decoder.close();
  }
}

/** Numbered pictures as a film of so many of them a second. Throws a sentence that names the picture that cannot be read. */
export async function filmOfSequence(files: readonly File[], rate: number, onProgress: (done: number) => void): Promise<Blob> {
  const pictures = async function* (): AsyncGenerator<Shown> {
    for (const file of files) {
      const image = await createImageBitmap(file, { premultiplyAlpha: 'none' }).catch(() => null);
      if (!image) throw new Error(say`“${file.name}” cannot be read as a picture.`);
      yield { image, seconds: 1 / rate };
    }
  };
  return filmOf(pictures(), rate, (n) => onProgress(n / files.length));
}
