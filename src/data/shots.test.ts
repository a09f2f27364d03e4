import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it } from 'vitest';
import type { Project, Shot } from '@/core/document';
import { proposePlain } from '@/core/edit';
import { describeFrame, shotFrames } from '@/core/evaluate';
import { plainEffect, plainMask, still } from '@/core/layer';
import { stagedMedia, stagedMove, stagedProject } from '@/core/staged';
import * as shots from './shots';
import { addProject, settled, undo, useProject } from './store';

const now = () => useProject.getState().project as Project;
const shot = (id: string) => now().shots.find((s) => s.id === id) as Shot;
const beat = (n: number) => ({ beat: n, offset: 0 });
const plain = (id: string, from: number, to: number, take = 't1') => proposePlain(now(), id, beat(from), beat(to), take);
const turn = (id: string): shots.NumberAt => ({ shotId: id, layerId: shot(id).layers[0].id, partId: null, name: 'turn' });
const undoLabel = () => useProject.getState().undoLabel;

beforeEach(async () => {
  await settled();
  await addProject({ ...stagedProject(), id: crypto.randomUUID() });
});

describe('shots of the open project', () => {
  it('one is laid with the kept pictures it needs, each once, selected, in one step', async () => {
    shots.addShot(plain('a', 4, 8), [stagedMedia('fresh', 'still'), stagedMedia('m1')]);
    expect(
      now()
        .media.filter((m) => m.id === 'fresh' || m.id === 'm1')
        .map((m) => m.id),
    ).toEqual(['m1', 'fresh']);
    expect(useProject.getState()).toMatchObject({ selectedShot: 'a', undoLabel: expect.stringMatching(/^Lay /) });
    await undo();
    expect(now().shots).toEqual([]);
    expect(now().media.some((m) => m.id === 'fresh')).toBe(false);
  });

  it('one that another shows lives on within it when it is taken off the score, and is back with undo', async () => {
    shots.addShot(plain('a', 4, 8));
    shots.addShot(plain('b', 8, 12));
    shots.changeLayer('b', shot('b').layers[0].id, 'Show a shot', (layer) => ({ ...layer, source: { kind: 'shot', shotId: 'a' } }));
    shots.removeShot('a');
    expect(now().shots.map((s) => s.id)).toEqual(['b']);
    expect(now().nestedShots.map((s) => s.id)).toEqual(['a']);
    expect(describeFrame(now(), shotFrames(now(), shot('b'))[0]).layers[0].source.kind).toBe('shot');
    await undo();
    expect(now().shots.map((s) => s.id)).toEqual(['a', 'b']);
    expect(now().nestedShots).toEqual([]);
  });

  it('a result of long work is not laid into another project than its own', () => {
    shots.addShot(plain('a', 4, 8), [], 'another project');
    expect(now().shots).toEqual([]);
    expect(useProject.getState().problem).toMatch(/Another project was opened/);
  });

  it('moves by beats, copies behind itself and repeats every few bars', () => {
    shots.addShot(plain('a', 4, 8));
    shots.moveShot('a', 4);
    expect([shot('a').start.beat, shot('a').end.beat]).toEqual([8, 12]);
    shots.copyShot(shot('a'));
    const copy = now().shots[1];
    expect([copy.start.beat, copy.end.beat]).toEqual([12, 16]);
    expect(useProject.getState().selectedShot).toBe(copy.id);
    shots.repeatShot(shot('a'), 4, 60);
    const starts = now()
      .shots.slice(2)
      .map((s) => s.start.beat);
    expect(starts).toEqual([24, 40, 56]);
    expect(new Set(now().shots.map((s) => s.id)).size).toBe(5);
  });

  it('trimming one side leaves the other where it is and shows the same frames of the take', () => {
    shots.addShot(plain('a', 4, 12));
    const [first, end] = shotFrames(now(), shot('a'));
    const seen = (frame: number) => describeFrame(now(), frame).layers[0];
    const before = seen(first + 20);
    shots.trimShot('a', 'start', first + 10);
    expect(shotFrames(now(), shot('a'))).toEqual([first + 10, end]);
    expect(seen(first + 20)).toEqual(before);
    shots.trimShot('a', 'end', end - 15);
    expect(shotFrames(now(), shot('a'))).toEqual([first + 10, end - 15]);
    expect(seen(first + 20)).toEqual(before);
    expect(undoLabel()).toBe('Trim the shot’s end');
  });

  it('taking one off leaves the others and selects none', () => {
    shots.addShot(plain('a', 4, 8));
    shots.addShot(plain('b', 8, 12));
    shots.removeShot('a');
    expect(now().shots.map((s) => s.id)).toEqual(['b']);
    expect(useProject.getState().selectedShot).toBeNull();
  });
});

describe('keys of a number', () => {
  beforeEach(() => shots.addShot(plain('a', 4, 12)));

  it('are set on film frames, rounded to a thousandth, and removed again but for the last', () => {
    const [first] = shotFrames(now(), shot('a'));
    shots.setKey(turn('a'), first + 5, 1.23456);
    shots.setKey(turn('a'), first + 25, -2);
    shots.setKey(turn('a'), first + 25, -3, 'linear');
    const keys = shots.keysOf(shot('a'), turn('a')) ?? [];
    expect(keys.map((k) => k.value)).toEqual(expect.arrayContaining([1.235, -3]));
    expect(keys.filter((k) => k.value === -2)).toEqual([]);
    shots.removeKeys(turn('a'), new Set([first + 5, first + 25]));
    expect(shots.keysOf(shot('a'), turn('a'))).toHaveLength(1);
  });

  it('of masks and effects are found by the part they belong to, and a part that is gone has none', () => {
    const numbers = {
      x: still(50),
      y: still(50),
      width: still(10),
      height: still(10),
      turn: still(0),
      inside: still(0),
      outside: still(0),
    };
    shots.changeLayer('a', shot('a').layers[0].id, 'Mask and blur', (layer) => ({
      ...layer,
      masks: [plainMask('m', 'ellipse', numbers)],
      effects: [plainEffect('e', 'blur')],
    }));
    const at = (partId: string, name: string) => ({ ...turn('a'), partId, name });
    const [first] = shotFrames(now(), shot('a'));
    shots.setKeys([at('m', 'x'), at('m', 'y')], first, [20, 30.00049], 'Move the mask');
    expect(shots.keysOf(shot('a'), at('m', 'x'))?.[0].value).toBe(20);
    expect(shots.keysOf(shot('a'), at('m', 'y'))?.[0].value).toBe(30);
    expect(undoLabel()).toBe('Move the mask');
    expect(shots.keysOf(shot('a'), at('gone', 'x'))).toBeUndefined();
    const [name] = Object.keys(shot('a').layers[0].effects[0].numbers);
    shots.setKey(at('e', name), first, 3);
    expect(shots.keysOf(shot('a'), at('e', name))?.[0].value).toBe(3);
    expect(shots.keysOf(shot('a'), at('m', 'x'))?.[0].value).toBe(20);
  });

  it('several at once with nothing to set is no step', () => {
    const label = undoLabel();
    shots.setKeys([], 0, [], 'Nothing');
    expect(undoLabel()).toBe(label);
  });
});

describe('a shot with a move', () => {
  beforeEach(() => shots.addShot(stagedMove(now(), 'whip', 8, ['t1', 't2'], {}, 'w')));
  const layerNumbers = () => shot('w').layers.flatMap((l) => Object.entries(l.numbers).map(([name, keys]) => ({ id: l.id, name, keys })));

  it('a key set by hand is noted once and outlives a change of the move; running it afresh drops it', () => {
    const keyed = layerNumbers().find(({ keys }) => (keys?.length ?? 0) > 1);
    if (!keyed) throw new Error('a whip keys nothing');
    const at = { shotId: 'w', layerId: keyed.id, partId: null, name: keyed.name };
    const [first] = shotFrames(now(), shot('w'));
    const made = JSON.stringify(keyed.keys);
    shots.setKey(at, first + 3, 17);
    shots.setKey(at, first + 4, 18);
    expect(shot('w').overrides).toEqual([shots.addressOf(at)]);
    const byHand = shots.keysOf(shot('w'), at);
    shots.changeMove('w', 'Change nothing of it', (move) => ({ ...move }));
    expect(shots.keysOf(shot('w'), at)).toEqual(byHand);
    shots.freshMove('w');
    expect(shot('w').overrides).toEqual([]);
    expect(JSON.stringify(shots.keysOf(shot('w'), at))).toBe(made);
  });

  it('swapping a take shows the other wherever the first was, with its tape, and the move knows of it', () => {
    shots.swapTake('w', 't2', 't3');
    const shown = shot('w').layers.flatMap((l) => (l.source.kind === 'take' ? [[l.source.takeId, l.tape]] : []));
    expect(shown.some(([id]) => id === 't2')).toBe(false);
    expect(shown).toContainEqual(['t3', 3]);
    expect(JSON.stringify(shot('w').move)).not.toContain('"t2"');
  });

  it('a plain shot has no move to change', () => {
    shots.addShot(plain('a', 20, 24));
    const before = shot('a');
    shots.changeMove('a', 'Change the move', (move) => ({ ...move }));
    expect(shot('a')).toBe(before);
  });
});

describe('shots put into one', () => {
  it('show the same on every frame, and taken apart stand where they stood', () => {
    shots.addShot(plain('a', 4, 8));
    shots.addShot(plain('b', 8, 12, 't2'));
    const before = now().shots;
    const [first] = shotFrames(now(), shot('a'));
    const [, end] = shotFrames(now(), shot('b'));
    shots.holdTogether(['a', 'b']);
    expect(now().shots).toHaveLength(1);
    const [one] = now().shots;
    expect(useProject.getState().selectedShot).toBe(one.id);
    expect(shotFrames(now(), one)).toEqual([first, end]);
    expect(now().nestedShots.map((s) => s.id)).toEqual(['a', 'b']);
    shots.takeApart(one.id);
    expect(now().nestedShots).toEqual([]);
    const by = (list: readonly Shot[]) => [...list].sort((p, q) => p.id.localeCompare(q.id));
    expect(by(now().shots)).toEqual(by(before));
  });

  it('moved while within one they come out where its layers lie', () => {
    shots.addShot(plain('a', 4, 8));
    shots.addShot(plain('b', 8, 12, 't2'));
    shots.holdTogether(['a', 'b']);
    shots.moveShot(now().shots[0].id, 16);
    shots.takeApart(now().shots[0].id);
    expect([shot('a').start.beat, shot('b').start.beat].sort((p, q) => p - q)).toEqual([20, 24]);
  });

  it('a shot of no shots stays as it is', () => {
    shots.addShot(plain('a', 4, 8));
    const before = now().shots;
    shots.takeApart('a');
    expect(now().shots).toEqual(before);
    shots.holdTogether([]);
    expect(now().shots).toEqual(before);
  });
});
