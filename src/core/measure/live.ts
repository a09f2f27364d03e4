import type { ColourSpace, Planes } from '../picture';
import { median, type Pixels, type Seconds, type Stops } from '../units';
import { say } from '../words';
import { type BlockColour, blockColours, type LightReading, meanColours, readLight } from './light';
import { canLock, LockMeter, type LockReading, type LockReference, makeReference } from './lock';
import { lumaOf } from './luma';
import { frameQuality } from './quality';
import { cornerMove } from './similarity';

/** One live reading against the set-up's reference. */
export interface LiveReading {
  /** Seconds since recording began, or since the camera was opened. */
  time: Seconds;
  lock: LockReading;
  /** How far the frame's worst corner has moved, pixels. */
  corner: Pixels;
  light: LightReading | null;
  /** Share of the picture that is blown out or drowned in black, 0..1. */
  blown: number;
  drowned: number;
  /** A knock that this reading completes. */
  bump: LiveBump | null;
}

export interface LiveBump {
  time: Seconds;
  size: Pixels;
}

/** A corner further from its level than this, twice running, is a knock. Pixels at 1280 wide. */
const LIMIT: Pixels = 0.5;

/** Follows a camera while it runs: lock, light and clipping against a reference, and knocks as they happen. */
export class LiveMeter {
  readonly reference: LockReference;
  private readonly meter: LockMeter;
  private readonly colours: BlockColour[];
  private level: { dx: Pixels; dy: Pixels; turn: number; scale: number };
  private away: { time: Seconds; lock: LockReading }[] = [];

  /** `frames` are the reference: one to nine pictures of the set-up. Throws when they hold too little texture to follow. */
  constructor(
    frames: readonly Planes[],
    private readonly space: ColourSpace,
  ) {
    this.reference = makeReference(frames.map(lumaOf));
    if (!canLock(this.reference))
      throw new Error(
        say`The background has too little texture to follow: a blank wall, darkness or blur. Put something patterned at the edge of the frame.`,
      );
    this.meter = new LockMeter(this.reference);
    this.colours = meanColours(frames.map((p) => blockColours(this.reference.fine, p)));
    this.level = { dx: 0, dy: 0, turn: 0, scale: 1 };
  }

  read(planes: Planes, time: Seconds): LiveReading {
    const lock = this.meter.read(lumaOf(planes));
    const { blown, drowned } = frameQuality(lumaOf(planes));
    const light = lock.trusted ? readLight(this.reference.fine, this.colours, this.space, planes, this.space, lock) : null;
    return {
      time,
      lock,
      corner: cornerMove(lock, planes.width, planes.height),
      light,
      blown,
      drowned,
      bump: this.bumpIn(lock, time, planes),
    };
  }

  /** A knock is told at the second reading away from the level; the level then moves to where the camera came to rest. */
  private bumpIn(lock: LockReading, time: Seconds, { width, height }: Planes): LiveBump | null {
    if (!lock.trusted) return null;
    const { level } = this;
    const off = { dx: lock.dx - level.dx, dy: lock.dy - level.dy, turn: lock.turn - level.turn, scale: lock.scale / level.scale };
    if (cornerMove(off, width, height) <= (LIMIT * width) / 1280) {
      this.away = [];
      return null;
    }
    this.away.push({ time, lock });
    if (this.away.length < 3) return null;
    const middle = (pick: (l: LockReading) => number) => median(this.away.map((a) => pick(a.lock)));
    const rest = { dx: middle((l) => l.dx), dy: middle((l) => l.dy), turn: middle((l) => l.turn), scale: middle((l) => l.scale) };
    const bump = { time: this.away[0].time, size: Math.hypot(rest.dx - level.dx, rest.dy - level.dy) };
    this.level = rest;
    this.away = [];
    return bump;
  }
}

/** Second radiation constant in nm·K (CODATA), and the wavelengths that stand for a camera's red and blue. */
const C2 = 1.4388e7;
const RED = 600;
const BLUE = 450;

/**
 * What a shift of red against blue means in kelvin, for light of about `from` kelvin: by Wien's approximation of Planck's
 * law ln(R/B) changes by c2·(1/λb − 1/λr)·Δ(1/T). A rough, kelvin-like figure; cameras' channels are wider.
 */
export function kelvinLike(light: { red: number; blue: number }, from = 3200): number {
  const change = Math.log(light.red / light.blue) / (C2 * (1 / BLUE - 1 / RED));
  return 1 / (1 / from + change);
}

/** Light difference in words: +0.12 EV, 150 K warmer. */
export function lightWords(light: { exposure: Stops; red: number; blue: number }, from = 3200): string {
  const kelvin = Math.round(kelvinLike(light, from) - from);
  const ev = `${light.exposure < 0 ? '−' : '+'}${Math.abs(light.exposure).toFixed(2)} EV`;
  return Math.abs(kelvin) < 15 ? ev : say`${ev}, about ${Math.abs(kelvin)} K ${kelvin < 0 ? 'warmer' : 'cooler'}`;
}
