import type { Shot } from '../document';
import { moveEvents, regenerate, withEvents } from '../edit';
import { beatMapOf, halfFrame } from '../evaluate';
import { type Anchor, anchorBeatSeconds, describeAnchor, frameToSeconds, resolveAnchor } from '../time';
import { say } from '../words';
import type { Rule } from './rule';

const [START, END] = ['shot start', 'shot end'];
/** What of a shot has a beat of its own, with its place in the song. */
export const eventsOf = (shot: Shot): [name: string, place: Anchor][] => [[START, shot.start], ...moveEvents(shot), [END, shot.end]];

const onIt = (anchor: Anchor): Anchor => ({ ...anchor, offset: 0 });

/** An event lies more than half a frame off its beat. */
export const offTheBeat: Rule<{ event: string }> = {
  id: 'off the beat',
  asks: say`every event is on its beat`,
  check: ({ project, shot }) => {
    const map = beatMapOf(project);
    const { rate } = project.frame;
    return eventsOf(shot).flatMap(([event, anchor]) => {
      const frame = resolveAnchor(map, anchor, rate);
      const off = frameToSeconds(frame, rate) - anchorBeatSeconds(map, anchor);
      if (Math.abs(off) <= halfFrame(rate) + 1e-6) return [];
      const frames = off / (2 * halfFrame(rate));
      return [
        {
          frame,
          weight: Math.abs(frames),
          text: say`The ${event} is ${Math.abs(frames).toFixed(1)} frames ${off > 0 ? 'after' : 'before'} ${describeAnchor(map, { ...anchor, offset: 0 })}.`,
          fix: { by: 'edit', label: say`Put it on the beat`, data: { event } },
        },
      ];
    });
  },
  fix: (project, shot, { event }) => {
    if (event === START) return regenerate(project, { ...shot, start: onIt(shot.start) });
    if (event === END) return regenerate(project, { ...shot, end: onIt(shot.end) });
    return regenerate(project, { ...shot, move: shot.move && withEvents(shot.move, event, onIt) });
  },
};
