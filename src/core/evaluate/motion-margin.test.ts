import { describe, expect, it } from 'vitest';
import { checkProject } from '../check';
import type { Project } from '../document';
import { plainShot } from '../edit';
import { keyAt, type Layer, plainLayer, plainMask, remapKeyAt, still } from '../layer';
import { applied } from '../picture';
import { stagedProject } from '../staged';
import { describeFrame } from './describe';
import { motionMargin } from './motion-margin';
import { shotFrames } from './shot-scene';

const PROJECT = stagedProject();
const place = (beat: number) => ({ beat, offset: 0 });
const take = (more: Partial<Layer> = {}) => plainLayer('take', 'Take', 0, { kind: 'take', takeId: 't1' }, [remapKeyAt(0, 0, 1)], more);
const shotOf = (layers: Layer[], overscan = 100) => plainShot('s', 'Shot', place(8), place(12), { layers, overscan });
const needed = (more: Partial<Layer>) => motionMargin(PROJECT, shotOf([take(more)])).percent;

describe('the margin that motion needs', () => {
  it('is that of practice.md: 48 of 1920 px sideways 105 %, 1° alone on 16:9 103.09 % (worked from the corners)', () => {
    expect(needed({ numbers: { x: [...still((100 * 48) / 1920)] } })).toBeCloseTo(105, 2);
    expect(needed({ numbers: { x: [...still(1.25)], y: [...still(1.25)] } })).toBeCloseTo(102.5, 2);
    expect(needed({ numbers: { turn: [...still(1)] } })).toBeCloseTo(103.09, 2);
    expect(needed({})).toBe(100);
  });

  it('is that of the frame which moves furthest, and says which', () => {
    const { percent, frame } = motionMargin(PROJECT, shotOf([take({ numbers: { x: [keyAt(0, 0, 0), keyAt(2, 0, 3), keyAt(4, 0, 0)] } })]));
    const [first, end] = shotFrames(PROJECT, shotOf([]));
    expect(percent).toBeCloseTo(106, 1);
    expect(Math.abs(frame - (first + end) / 2)).toBeLessThanOrEqual(1);
  });

  it.each<[string, Partial<Layer>]>([
    ['is mirrored at its edges', { edge: 'mirror' }],
    ['is shrunk on purpose', { numbers: { scale: [...still(60)] } }],
    [
      'is cut out',
      {
        masks: [
          plainMask('m', 'ellipse', {
            x: still(50),
            y: still(50),
            width: still(20),
            height: still(20),
            turn: still(0),
            inside: still(1),
            outside: still(1),
          }),
        ],
      },
    ],
    ['is off', { on: false }],
  ])('is none where the picture %s', (_, more) => {
    expect(needed({ ...more, numbers: { x: [...still(5)], ...more.numbers } })).toBe(100);
  });

  it('of a shot within a shot is asked for and given: enlarged by it, no corner of the frame is beyond the picture', () => {
    const inner = plainShot('inner', 'Inner', place(8), place(12), { layers: [take()] });
    const nested = plainLayer('nest', 'Inner', 0, { kind: 'shot', shotId: 'inner' }, [remapKeyAt(0, 0, 0)], {
      numbers: { x: [keyAt(0, 0, -2), keyAt(4, 0, 2)], turn: [...still(0.5)] },
    });
    const project: Project = { ...PROJECT, nestedShots: [inner], shots: [shotOf([nested])] };
    const { percent } = motionMargin(project, project.shots[0]);
    const { width, height } = project.frame;
    const beyond = (overscan: number) => {
      const with_ = { ...project, shots: [shotOf([nested], overscan)] };
      const [first, end] = shotFrames(with_, with_.shots[0]);
      let most = 0;
      for (let frame = first; frame < end; frame += 3) {
        const { map } = describeFrame(with_, frame).layers[0];
        for (const x of [0, width])
          for (const y of [0, height]) {
            const at = applied(map, { x, y });
            most = Math.max(most, -at.x, at.x - width, -at.y, at.y - height);
          }
      }
      return most;
    };
    expect(beyond(100)).toBeGreaterThan(20);
    expect(beyond(percent)).toBeLessThan(0.1);
  });

  it('is a finding of the check, mended in one press', () => {
    const moving = shotOf([take({ numbers: { x: [...still(2)] } })]);
    const project = { ...PROJECT, shots: [moving] };
    const [found] = checkProject(project, []).filter((f) => f.rule === 'edge shows');
    expect(found.text).toMatch(/motion shows the picture's edge by up to 25\.6 px/);
    expect(found.fix).toMatchObject({ label: 'Enlarge the shot to 104.00 %' });
    expect(checkProject({ ...project, shots: [{ ...moving, overscan: 104 }] }, []).filter((f) => f.rule === 'edge shows')).toEqual([]);
  });
});
