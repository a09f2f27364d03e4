import { median, type Seconds, type Unit } from '../units';
import { say } from '../words';
import type { Luma } from './luma';
import { rowSumsByKernel } from './luma-kernel';

/** What a take is like as a picture, apart from where the camera stood. */
export interface Quality {
  /** Fine detail of each frame against the take's own usual: 1 as usual, lower is softer. */
  sharpness: number[];
  /** Fine detail of the take as a whole: energy of second differences over variance; only takes of one set compare. */
  detail: number;
  /** Standard deviation of the noise, code values. */
  noise: number;
  /** Share of the picture that is blown out or drowned, median over frames. */
  blown: Unit;
  drowned: Unit;
  /** Frames that repeat the one before, by number. */
  repeats: number[];
  /** Frames a second that are new. */
  trueRate: number;
  /** True when frame spacing departs by more than a tenth from the usual on more than one in fifty. */
  variableRate: boolean;
}

/** From what value on a pixel is blown out, and up to what it is drowned (limited range, ITU-R BT.709: white 235, black 16). */
const BLOWN = 235;
const DROWNED = 18;

/** Every how manyth row is read, 30 to 90 of them; an odd number, so that every row of a codec's blocks has its turn. */
const rowStep = (height: number) => Math.max(1, Math.ceil(height / 90) | 1);

/** Sums over every `step`th row but its ends: energy of second differences, brightness, its square, pixels from `high` on and up to `low`, pixels. */
export function rowSumsPlainly({ width, height, data }: Luma, step: number, high: number, low: number): Float64Array {
  const sums = new Float64Array(6);
  for (let y = step >> 1; y < height; y += step) {
    for (let i = y * width + 1; i < (y + 1) * width - 1; i++) {
      const second = data[i - 1] - 2 * data[i] + data[i + 1];
      sums[0] += second * second;
      sums[1] += data[i];
      sums[2] += data[i] * data[i];
      if (data[i] >= high) sums[3]++;
      if (data[i] <= low) sums[4]++;
      sums[5]++;
    }
  }
  return sums;
}

/** Fine detail of a frame (energy of second differences over the variance: falls as focus is lost) and its share blown out and drowned. */
export function frameQuality(frame: Luma): { detail: number; blown: Unit; drowned: Unit } {
  const step = rowStep(frame.height);
  const sums = rowSumsByKernel(frame, step, BLOWN, DROWNED) ?? rowSumsPlainly(frame, step, BLOWN, DROWNED);
  const [fine, sum, square, blown, drowned, n] = sums;
  const variance = square / n - (sum / n) ** 2;
  return { detail: variance > 0 ? fine / n / variance : 0, blown: blown / n, drowned: drowned / n };
}

/** Pixels a fifth as many as the rows read hold, every column in its turn. */
function samplesOf({ data, width, height }: Luma): Uint8Array {
  const step = rowStep(height);
  const across = Math.ceil(width / 5);
  const samples = new Uint8Array(across * Math.ceil((height - (step >> 1)) / step));
  let k = 0;
  for (let y = step >> 1, turn = 0; y < height; y += step, turn = (turn + 2) % 5)
    for (let i = y * width + turn; i < (y + 1) * width; i += 5) samples[k++] = data[i];
  return samples.subarray(0, k);
}

/** What is read of each frame's quality; noise and movement are against the frame before, so there is one fewer of each. */
export interface QualitySeries {
  details: number[];
  blown: number[];
  drowned: number[];
  noises: number[];
  /** How far the quickest hundredth of the picture moved since the frame before. */
  moves: number[];
}

/** Gathers a take's quality frame by frame into `series`, which may hold earlier frames of it already. */
export class QualityMeter {
  private before: Uint8Array | null = null;

  constructor(private readonly series: QualitySeries = { details: [], blown: [], drowned: [], noises: [], moves: [] }) {}

  read(frame: Luma): void {
    const { details, blown, drowned, noises, moves } = this.series;
    const own = frameQuality(frame);
    details.push(own.detail);
    blown.push(own.blown);
    drowned.push(own.drowned);
    const { before } = this;
    const samples = this.see(frame);
    if (!before) return;
    const counts = differences(samples, before);
    noises.push(noiseIn(counts, samples.length));
    moves.push(quantile(counts, samples.length, 0.99));
  }

  /** Remembers a frame as the one before the next, without reading it: where an interrupted measure goes on. */
  see(frame: Luma): Uint8Array {
    this.before = samplesOf(frame);
    return this.before;
  }

  done(times: readonly Seconds[]): Quality {
    const { details, blown, drowned, noises, moves } = this.series;
    const detail = median(details);
    const gaps = times.slice(1).map((t, i) => t - times[i]);
    const usual = median(gaps) || 1;
    // A repeat stands alone between frames that move; a performer who comes to rest slows down before.
    const repeats = moves.flatMap((move, i) => {
      const beside = Math.min(moves[i - 1] ?? moves[i + 1], moves[i + 1] ?? moves[i - 1]);
      return beside >= 6 && move < beside / 5 ? [i + 1] : [];
    });
    const span = times.length > 1 ? times[times.length - 1] - times[0] : 0;
    const odd = gaps.filter((g) => Math.abs(g / usual - 1) > 0.1).length;
    return {
      sharpness: details.map((d) => (detail > 0 ? d / detail : 1)),
      detail,
      noise: noises.length ? median(noises) : 0,
      blown: median(blown),
      drowned: median(drowned),
      repeats,
      trueRate: span > 0 ? (times.length - 1 - repeats.length) / span : 0,
      variableRate: odd > gaps.length / 50,
    };
  }
}

/** How often two series of samples differ by each number of code values. */
function differences(a: Uint8Array, b: Uint8Array): Uint32Array {
  // Four counts side by side: one alone would wait for itself where neighbours are alike.
  const counts = new Uint32Array(1024);
  for (let k = 0; k < a.length; k++) counts[((k & 3) << 8) | Math.abs(a[k] - b[k])]++;
  for (let v = 0; v < 256; v++) counts[v] += counts[256 + v] + counts[512 + v] + counts[768 + v];
  return counts.subarray(0, 256);
}

/** The value below which a share of a histogram lies, read between whole values. */
function quantile(counts: Uint32Array, n: number, share: number): number {
  let below = 0;
  for (let v = 0; v < counts.length; v++) {
    if (below + counts[v] >= share * n) return Math.max(0, v - 0.5 + (share * n - below) / counts[v]);
    below += counts[v];
  }
  return counts.length;
}

/** Median difference up to which whole code values are too coarse for it to be told by. */
const FINE = 1.5;

/**
 * Standard deviation of one frame's noise by how far two differ, code values: by the median (Rousseeuw & Croux 1993), which does not mind
 * what moves; where most pixels are the same in both, by the mean square of the small differences.
 */
function noiseIn(counts: Uint32Array, n: number): number {
  const middle = quantile(counts, n, 0.5);
  if (middle >= FINE) return middle / (0.6745 * Math.SQRT2);
  const most = Math.ceil(2 + 3 * middle);
  let [sum, among] = [0, 0];
  for (let v = 0; v <= most; v++) [sum, among] = [sum + v * v * counts[v], among + counts[v]];
  return among > 0 ? Math.sqrt(sum / among / 2) : 0;
}

/** Stretches of frames softer than `least` of the usual for at least five frames: a pull of focus or a lost one. */
export function softStretches(sharpness: readonly number[], least = 0.6): { from: number; to: number; worst: number }[] {
  const out: { from: number; to: number; worst: number }[] = [];
  let start = -1;
  for (let i = 0; i <= sharpness.length; i++) {
    const soft = i < sharpness.length && sharpness[i] < least;
    if (soft && start < 0) start = i;
    if (soft || start < 0) continue;
    if (i - start >= 5) out.push({ from: start, to: i - 1, worst: Math.min(...sharpness.slice(start, i)) });
    start = -1;
  }
  return out;
}

/** Sentences about what is wrong with a take's picture; none when nothing is. `width` tells nothing but the size of the file. */
export function qualityFindings(quality: Quality, declaredRate: number): string[] {
  const out: string[] = [];
  const percent = (v: number) => `${(100 * v).toFixed(1)} %`;
  for (const { from, to, worst } of softStretches(quality.sharpness))
    out.push(say`Soft from frame ${from} to ${to}: down to ${percent(worst)} of its usual fine detail. Focus moved, or the camera did.`);
  if (quality.blown > 0.02) out.push(say`${percent(quality.blown)} of the picture is blown out. Close the aperture or lower ISO.`);
  if (quality.drowned > 0.25) out.push(say`${percent(quality.drowned)} of the picture is drowned in black.`);
  if (quality.noise > 4) out.push(say`Noise of ${quality.noise.toFixed(1)} code values: more light, or a lower ISO.`);
  if (quality.repeats.length > 2)
    out.push(
      say`${quality.repeats.length} frames repeat the one before: ${quality.trueRate.toFixed(2)} new ones a second, not ${declaredRate.toFixed(2)}.`,
    );
  if (quality.variableRate) out.push(say`The frame rate varies; times are taken frame by frame from the file.`);
  return out;
}
