import type { OutputFormat } from 'mediabunny';

/** A kind of film file that can be written. One is one file and a line in `index.ts`; what writes it is loaded where it is written only. */
export interface Container {
  /** Its ending. */
  readonly id: string;
  /** How its name and codecs are shown. */
  readonly label: string;
  readonly video: { codec: 'avc' | 'vp9'; name: string };
  readonly audio: 'aac' | 'opus';
  /** As it is written as it goes: broken off, it plays up to where it got. */
  growing(): Promise<OutputFormat>;
  /** As it is put together at its end, pictures and sound copied as they are; null where it is whole as it was written. */
  whole: (() => Promise<OutputFormat>) | null;
}

/** Seconds between points up to which a film that was broken off plays. */
export const FRAGMENT = 2;
