import { readFileSync } from 'node:fs';
import { expect, it } from 'vitest';
import { readProject } from '@/core/document';
import { bared } from './picture-aids';

it('the film loses its masks and effects and nothing else; the same project gives the same again', () => {
  const read = readProject(JSON.parse(readFileSync('src/core/document/kept/version-13.json', 'utf8')));
  if (!read.ok) throw new Error(read.reason);
  const { project } = read;
  expect(project.shots.some((s) => s.layers.some((l) => l.masks.length > 0))).toBe(true);
  const bare = bared(project);
  bare.shots.forEach((shot, i) => {
    shot.layers.forEach((layer, k) => {
      expect(layer).toEqual({ ...project.shots[i].layers[k], masks: [], effects: [] });
    });
  });
  expect(bared(project)).toBe(bare);
});
