import type { Seconds, Unit } from '../units';
import { say } from '../words';
import { decay, filter, oscillator, smooth } from './filter';

/** What a voice is made with: samples a second, its length, and noise between -1 and 1. */
export interface Ground {
  rate: number;
  seconds: Seconds;
  noise: () => number;
  /** Chance between 0 and 1, for what is drawn once. */
  chance: () => Unit;
}

/** One kind of sound: its usual length, what it sounds like, and the instant of it that meets a beat. */
export interface Voice {
  usual: Seconds;
  about: string;
  /** Share of its length at which it is met. */
  meets: Unit;
  /** Full-scale peak in decibels it is brought to. */
  peak: number;
  make(ground: Ground): (t: Seconds) => number;
}

/** Peak of what stands out, and of what lies beneath, dBFS. Common practice for effects under a song. */
const [CLEAR, BENEATH] = [-3, -9];

/** Every sound that the application makes itself. `t` runs through its length in steps of a sample. */
export const VOICES = {
  whoosh: {
    usual: 0.7,
    about: say`air rushing past, for whips, wipes and things that fly`,
    meets: 0.55,
    peak: CLEAR,
    make: ({ rate, seconds, noise }) => {
      const [low, high] = [filter('band', rate, 1.2), filter('band', rate, 2.5)];
      return (t) => {
        const at = t / seconds;
        // Nearer until it passes, then away, lower as it goes.
        const swell = at < 0.55 ? smooth(at / 0.55) ** 2 : smooth((1 - at) / 0.45) ** 1.5;
        const centre = at < 0.55 ? 250 * 9 ** (at / 0.55) : 2250 * 5 ** (-(at - 0.55) / 0.45);
        const air = noise();
        return swell * (low(air, 0.5 * centre) + 0.8 * high(air, centre));
      };
    },
  },
  impact: {
    usual: 0.9,
    about: say`a heavy blow, for landings, freezes and things that are struck`,
    meets: 0,
    peak: CLEAR,
    make: ({ rate, noise }) => {
      const [body, thud, click] = [oscillator(rate), filter('low', rate, 0.8), filter('high', rate, 0.7)];
      return (t) => {
        const air = noise();
        return (
          0.9 * decay(t, 0.09) * body(42 + 90 * decay(t, 0.03)) +
          0.6 * decay(t, 0.04) * thud(air, 300) +
          0.35 * decay(t, 0.006) * click(air, 2500)
        );
      };
    },
  },
  riser: {
    usual: 2,
    about: say`tension that climbs to the beat`,
    meets: 1,
    peak: BENEATH,
    make: ({ rate, seconds, noise }) => {
      const [tone, other, air] = [oscillator(rate), oscillator(rate), filter('band', rate, 1.5)];
      return (t) => {
        const at = t / seconds;
        const pitch = 110 * 8 ** at;
        return at ** 4 * (0.35 * tone(pitch, 'saw') + 0.25 * other(1.002 * pitch, 'saw') + 0.9 * air(noise(), 600 * 10 ** at));
      };
    },
  },
  rumble: {
    usual: 2.5,
    about: say`low thunder that rolls away`,
    meets: 0,
    peak: BENEATH,
    make: ({ rate, noise }) => {
      const [low, deep] = [filter('low', rate, 0.9), filter('low', rate, 0.9)];
      return (t) => smooth(t / 0.05) * decay(t, 0.6) * deep(low(noise(), 110), 160);
    },
  },
  'reversed rumble': {
    usual: 2,
    about: say`low thunder run backwards, up to the beat`,
    meets: 1,
    peak: BENEATH,
    make: ({ rate, seconds, noise }) => {
      const [low, deep] = [filter('low', rate, 0.9), filter('low', rate, 0.9)];
      return (t) => decay(seconds - t, 0.45) * smooth((seconds - t) / 0.02) * deep(low(noise(), 110), 160);
    },
  },
  'sub drop': {
    usual: 1.6,
    about: say`a deep tone that falls out of hearing, for drops`,
    meets: 0,
    peak: CLEAR,
    make: ({ rate, seconds }) => {
      const tone = oscillator(rate);
      return (t) => smooth(t / 0.008) * smooth((seconds - t) / (0.5 * seconds)) * decay(t, 0.5) * tone(30 + 65 * decay(t, 0.28));
    },
  },
  shutter: {
    usual: 0.2,
    about: say`a camera’s shutter, for freezes and stills`,
    meets: 0,
    peak: CLEAR,
    make: ({ rate, noise }) => {
      const [open, close] = [filter('band', rate, 1.4), filter('band', rate, 1.8)];
      return (t) => {
        const air = noise();
        return decay(t, 0.006) * open(air, 3200) + 0.7 * decay(t - 0.07, 0.009) * close(air, 2100);
      };
    },
  },
  typewriter: {
    usual: 0.14,
    about: say`one stroke of a typewriter, for titles that are typed`,
    meets: 0,
    peak: CLEAR,
    make: ({ rate, noise, chance }) => {
      const [key, wood] = [filter('band', rate, 3), oscillator(rate)];
      const bright = 2600 + 900 * chance();
      return (t) => decay(t, 0.005) * key(noise(), bright) + 0.06 * decay(t, 0.01) * wood(190);
    },
  },
  glass: {
    usual: 1.4,
    about: say`glass that breaks and falls`,
    meets: 0,
    peak: CLEAR,
    make: ({ rate, noise, chance }) => {
      const crack = filter('high', rate, 0.8);
      // Splinters that ring by themselves, most of them at once and some as they land.
      const splinters = Array.from({ length: 26 }, (_, k) => ({
        at: k < 12 ? 0.02 * chance() : 0.75 * chance() ** 1.5,
        pitch: 2200 + 7000 * chance(),
        rings: 0.015 + 0.09 * chance(),
        loud: 0.15 + 0.5 * chance(),
        tone: oscillator(rate),
      }));
      return (t) => {
        let sum = 0.9 * decay(t, 0.012) * crack(noise(), 3500);
        for (const { at, pitch, rings, loud, tone } of splinters) if (t >= at) sum += 0.5 * loud * decay(t - at, rings) * tone(pitch);
        return sum;
      };
    },
  },
  cloth: {
    usual: 0.8,
    about: say`cloth that is thrown and falls, for curtains and reveals`,
    meets: 0.25,
    peak: BENEATH,
    make: ({ rate, seconds, noise, chance }) => {
      const [fibre, body] = [filter('band', rate, 0.7), filter('low', rate, 0.7)];
      const flaps = Array.from({ length: 7 }, (_, k) => ({ at: seconds * (0.2 + 0.09 * k + 0.03 * chance()), loud: 0.9 ** k }));
      return (t) => {
        const air = noise();
        const flap = flaps.reduce((sum, { at, loud }) => sum + loud * (t >= at ? decay(t - at, 0.035) : decay(at - t, 0.012)), 0);
        const swell = smooth(t / (0.2 * seconds)) * smooth((seconds - t) / (0.5 * seconds));
        return swell * (0.15 + flap) * (fibre(air, 2600) + 0.6 * body(air, 260));
      };
    },
  },
  'tape stop': {
    usual: 1,
    about: say`a tone that runs down like a tape that is stopped`,
    meets: 0,
    peak: BENEATH,
    make: ({ rate, seconds }) => {
      const tones = [220, 277.2, 329.6].map((pitch) => ({ pitch, tone: oscillator(rate) }));
      const dull = filter('low', rate, 0.7);
      return (t) => {
        const speed = Math.max(0, 1 - t / seconds) ** 1.6;
        const chord = tones.reduce((sum, { pitch, tone }) => sum + tone(pitch * speed, 'saw'), 0) / 3;
        return smooth(t / 0.01) * smooth((seconds - t) / 0.05) * dull(chord, 200 + 3500 * speed);
      };
    },
  },
  'room tone': {
    usual: 6,
    about: say`a quiet room at night, to lie under what would else be silence`,
    meets: 0,
    peak: -38,
    make: ({ rate, seconds, noise }) => {
      const [low, air, hum] = [filter('low', rate, 0.7), filter('band', rate, 0.5), oscillator(rate)];
      return (t) => {
        const hiss = noise();
        return smooth(t / 0.5) * smooth((seconds - t) / 0.5) * (low(hiss, 220) + 0.25 * air(hiss, 900) + 0.04 * hum(100));
      };
    },
  },
} as const satisfies Record<string, Voice>;
export type SoundKind = keyof typeof VOICES;
export const SOUND_KINDS = Object.keys(VOICES) as [SoundKind, ...SoundKind[]];
