import type { Frames } from '@/core/units';

/** A file that a picture or a sound needs and that cannot be read. */
export class SourceFault extends Error {
  constructor(
    readonly fileId: string,
    readonly kind: 'picture' | 'sound',
    reason: string,
  ) {
    super(reason);
    this.name = 'SourceFault';
  }
}

/** Where a film stopped: why, from which of its frames on, and how many frames in a row need the file. Frames count from the film's first. */
export interface FilmFault {
  sentence: string;
  kind: 'picture' | 'sound';
  fileId: string;
  frame: Frames;
  frames: Frames;
}

/** What a user let pass: frames that need a file are black, or hold the last picture that was whole; sound is silent. */
export interface Leave {
  fileId: string;
  how: 'black' | 'hold' | 'silent';
}
