import { enlarged, type Homography } from '../picture';
import type { Pixels } from '../units';
import { type Luma, shrink } from './luma';

interface Mat {
  data: Uint8Array;
  data32F: Float32Array;
  data64F: Float64Array;
  rows: number;
  empty(): boolean;
  delete(): void;
}
interface KeyPoints {
  size(): number;
  get(i: number): { pt: { x: number; y: number } };
  delete(): void;
}
interface Detector {
  detectAndCompute(picture: Mat, mask: Mat, points: KeyPoints, descriptors: Mat, useGiven: boolean): void;
  delete(): void;
}
interface Matches {
  size(): number;
  get(i: number): { size(): number; get(k: number): { queryIdx: number; trainIdx: number; distance: number } };
  delete(): void;
}

/** The part of OpenCV.js that finds the same points in two pictures. */
export interface FeatureLibrary {
  Mat: new () => Mat;
  matFromArray(rows: number, cols: number, type: number, data: ArrayLike<number>): Mat;
  KeyPointVector: new () => KeyPoints;
  DMatchVectorVector: new () => Matches;
  AKAZE: new () => Detector & { setThreshold(value: number): void };
  BFMatcher: new (norm: number, crossCheck: boolean) => { knnMatch(a: Mat, b: Mat, out: Matches, k: number): void; delete(): void };
  findHomography(from: Mat, to: Mat, method: number, tolerance: number, mask: Mat, rounds: number, sure: number): Mat;
  NORM_HAMMING: number;
  CV_8UC1: number;
  CV_32FC2: number;
  RANSAC: number;
}

/** About how wide pictures are looked at: what is too small to be seen then is found when the guess is refined. */
const WIDE: Pixels = 800;
/** Points that must agree before a map is believed. */
const LEAST = 12;
/** A match counts where the next best is worse by this much: Lowe 2004. */
const RATIO = 0.8;

/** Brightness spread over the whole range, so that a dark set shows its corners. */
function spread({ data }: Luma): Uint8Array {
  const counts = new Uint32Array(256);
  for (const v of data) counts[v]++;
  const at = (share: number) => {
    let left = share * data.length;
    let v = 0;
    while (v < 255 && left > counts[v]) left -= counts[v++];
    return v;
  };
  const [low, high] = [at(0.01), at(0.99)];
  const gain = 255 / Math.max(24, high - low);
  return data.map((v) => Math.max(0, Math.min(255, (v - low) * gain)));
}

/** Guesses that are made of one pair of pictures, at most. */
const MOST = 4;

/**
 * First guesses of how `a` lies in `b` (pictures of one size, points from the middles), however it was shifted, turned, scaled or tilted:
 * AKAZE features (Alcantarilla 2013), matched both ways, and the map that most of them agree on (RANSAC); then that of the rest, for
 * most may lie on a performer who moved. Empty where too few agree.
 */
export function featureGuesses(cv: FeatureLibrary, a: Luma, b: Luma): Homography[] {
  const factor = Math.max(1, Math.round(a.width / WIDE));
  return guessesAt(cv, shrink(a, factor), shrink(b, factor)).map((map) => enlarged(map, factor));
}

function guessesAt(cv: FeatureLibrary, a: Luma, b: Luma): Homography[] {
  const { width, height } = a;
  const trash: { delete(): void }[] = [];
  const keep = <T extends { delete(): void }>(one: T): T => {
    trash.push(one);
    return one;
  };
  try {
    const detector = keep(new cv.AKAZE());
    detector.setThreshold(0.0006);
    const seen = [a, b].map((luma) => {
      const [points, descriptors] = [keep(new cv.KeyPointVector()), keep(new cv.Mat())];
      detector.detectAndCompute(
        keep(cv.matFromArray(height, width, cv.CV_8UC1, spread(luma))),
        keep(new cv.Mat()),
        points,
        descriptors,
        false,
      );
      return { points, descriptors };
    });
    if (seen.some(({ points }) => points.size() < LEAST)) return [];
    const matcher = keep(new cv.BFMatcher(cv.NORM_HAMMING, false));
    const best = ([from, to]: typeof seen): Map<number, number> => {
      const matches = keep(new cv.DMatchVectorVector());
      matcher.knnMatch(from.descriptors, to.descriptors, matches, 2);
      const out = new Map<number, number>();
      for (let i = 0; i < matches.size(); i++) {
        const two = matches.get(i);
        if (two.size() === 2 && two.get(0).distance < RATIO * two.get(1).distance) out.set(two.get(0).queryIdx, two.get(0).trainIdx);
      }
      return out;
    };
    const [there, back] = [best(seen), best([seen[1], seen[0]])];
    let pairs: (readonly [number, number, number, number])[] = [];
    for (const [i, k] of there) {
      if (back.get(k) !== i) continue;
      const [p, q] = [seen[0].points.get(i).pt, seen[1].points.get(k).pt];
      pairs.push([p.x + 0.5 - width / 2, p.y + 0.5 - height / 2, q.x + 0.5 - width / 2, q.y + 0.5 - height / 2]);
    }
    const guesses: Homography[] = [];
    while (pairs.length >= LEAST && guesses.length < MOST) {
      const side = (first: 0 | 2) =>
        keep(
          cv.matFromArray(
            pairs.length,
            1,
            cv.CV_32FC2,
            pairs.flatMap((p) => [p[first], p[first + 1]]),
          ),
        );
      const agree = keep(new cv.Mat());
      const found = keep(cv.findHomography(side(0), side(2), cv.RANSAC, 2, agree, 4000, 0.999));
      const agreeing = Array.from(agree.data);
      if (found.empty() || agreeing.reduce((s, v) => s + v, 0) < LEAST) break;
      const m = Array.from(found.data64F);
      const [p, q, r, s, t, u, v, w] = m.map((x) => x / m[8]);
      guesses.push([p, q, r, s, t, u, v, w]);
      pairs = pairs.filter((_, i) => !agreeing[i]);
    }
    return guesses;
  } finally {
    for (const one of trash) one.delete();
  }
}
