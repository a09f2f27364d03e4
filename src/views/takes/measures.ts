import type { Choice } from '@/views/shared';

/** What is measured in takes, and the part of the stage that shows it. */
export const MEASURES = [
  {
    kind: 'steadiness',
    name: 'Steadiness',
    about: 'How far the camera shifts, turns and breathes on every frame, from the background alone; a knock is told with its frame.',
    part: 'each',
  },
  {
    kind: 'light',
    name: 'Light',
    about: 'Exposure in EV and the colour of the light over the take: fades, steps and the flicker of lamps.',
    part: 'each',
  },
  {
    kind: 'sharpness',
    name: 'Sharpness',
    about: 'Focus that hunts, noise, blown highlights and frames that were repeated.',
    part: 'each',
  },
  {
    kind: 'cut',
    name: 'Parts of a long recording',
    about: 'Where nothing moves, where it is silent, or where tones and claps are heard, a recording is cut into takes.',
    part: 'each',
  },
  {
    kind: 'sync',
    name: 'Line up by sound',
    about: 'Two takes of one song are laid on each other by what both microphones heard, to a fraction of a frame.',
    part: 'together',
  },
  {
    kind: 'seam',
    name: 'Seam',
    about: 'The line between two takes that no performer crosses, pulled by hand where it must go elsewhere.',
    part: 'together',
  },
  {
    kind: 'contacts',
    name: 'Contacts',
    about: 'Takes in which hands meet, every one of one place against every one of the other, the best match first.',
    part: 'contact',
  },
  {
    kind: 'set',
    name: 'The empty set',
    about: 'The room without anybody, from the plates or from the takes themselves, and where everybody stands in it.',
    part: 'set',
  },
  {
    kind: 'figure',
    name: 'Cut-out',
    about: 'The performer lifted off the room on one frame or all along a take, put right with a brush.',
    part: 'cut',
  },
  {
    kind: 'points',
    name: 'Points',
    about: 'A place on the picture followed through the take, to hold it still or to fix something to it.',
    part: 'points',
  },
] as const satisfies readonly (Choice<string> & { part: string })[];
