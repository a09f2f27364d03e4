import { describe, expect, it } from 'vitest';
import { pulledSeam } from './pull-seam';

const upright = { points: [0, 25, 50, 75, 100].map((y) => ({ x: 40, y, soft: 3 })) };

describe('a pulled seam', () => {
  it('goes all the way where it is pulled, less to both sides, and keeps its heights and its softness', () => {
    const points = pulledSeam(upright, 50, 8);
    expect(points.map((p) => p.y)).toEqual([0, 25, 50, 75, 100]);
    expect(points[2].x).toBe(48);
    expect(points[1].x).toBeCloseTo(points[3].x, 12);
    expect(points[1].x - 40).toBeLessThan(1);
    expect(points[0].x).toBeLessThan(points[1].x);
    expect(points.every((p) => p.soft === 3)).toBe(true);
  });
  it('from left to right is pulled up and down', () => {
    const points = pulledSeam({ across: true, points: upright.points.map(({ x, y }) => ({ x: y, y: x })) }, 75, -5);
    expect(points.map((p) => p.x)).toEqual([0, 25, 50, 75, 100]);
    expect(points[3].y).toBe(35);
  });
});
