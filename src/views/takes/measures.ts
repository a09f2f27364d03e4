import { say } from '@/core/words';
import type { Choice } from '@/views/shared';

/** What is measured in takes, and the part of the stage that shows it. */
export const MEASURES = [
  {
    kind: 'steadiness',
    name: say`Steadiness`,
    about: say`How far the camera shifts, turns and breathes on every frame, from the background alone; a knock is told with its frame.`,
    part: 'each',
  },
  {
    kind: 'light',
    name: say`Light`,
    about: say`Exposure in EV and the colour of the light over the take: fades, steps and the flicker of lamps.`,
    part: 'each',
  },
  {
    kind: 'sharpness',
    name: say`Sharpness`,
    about: say`Focus that hunts, noise, blown highlights and frames that were repeated.`,
    part: 'each',
  },
  {
    kind: 'cut',
    name: say`Parts of a long recording`,
    about: say`Where nothing moves, where it is silent, or where tones and claps are heard, a recording is cut into takes.`,
    part: 'each',
  },
  {
    kind: 'sync',
    name: say`Line up by sound`,
    about: say`Two takes of one song are laid on each other by what both microphones heard, to a fraction of a frame.`,
    part: 'together',
  },
  {
    kind: 'seam',
    name: say`Seam`,
    about: say`The line between two takes that no performer crosses, pulled by hand where it must go elsewhere.`,
    part: 'together',
  },
  {
    kind: 'contacts',
    name: say`Contacts`,
    about: say`Takes in which hands meet, every one of one place against every one of the other, the best match first.`,
    part: 'contact',
  },
  {
    kind: 'set',
    name: say`The empty set`,
    about: say`The room without anybody, from the plates or from the takes themselves, and where everybody stands in it.`,
    part: 'set',
  },
  {
    kind: 'figure',
    name: say`Cut-out`,
    about: say`The performer lifted off the room on one frame or all along a take, put right with a brush.`,
    part: 'cut',
  },
  {
    kind: 'points',
    name: say`Points`,
    about: say`A place on the picture followed through the take, to hold it still or to fix something to it.`,
    part: 'points',
  },
] as const satisfies readonly (Choice<string> & { part: string })[];
