'use client';
import { useState } from 'react';
import { layerMove, maskPoints } from '@/core/evaluate';
import { type Mask, maskNumberAt } from '@/core/layer';
import { applied, ellipsePoints, inverted, lineExtent, lineNormal, outlinePoints, type Point, rectanglePoints } from '@/core/picture';
import { say } from '@/core/words';
import { type NumberAt, setKey, setKeys } from '@/data/shots';
import { tapeColour } from '@/ui/tape';
import { Drawing, Handle, held, type OverlayProps, Stroke } from '@/views/shared';

/** A line mask over the picture, with its feather; dragged, it sets a key on this frame. */
export function LineMask({ project, shot, scene, layer, mask, playhead }: OverlayProps & { mask: Mask }) {
  const [live, setLive] = useState<number | null>(null);
  const { frame } = project;
  const { width, height } = frame;
  const n = (name: string) => maskNumberAt(scene, mask, name, playhead);
  const value = live ?? n('at');
  const angle = n('angle');
  const extent = lineExtent(angle, width, height);
  const [nx, ny] = lineNormal(angle);
  const distance = (value / 100 - 0.5) * extent;
  const long = width + height;
  const stroke = (off: number) => {
    const cx = width / 2 + nx * (distance + off);
    const cy = height / 2 + ny * (distance + off);
    return `M${cx - ny * long} ${cy + nx * long} L${cx + ny * long} ${cy - nx * long}`;
  };
  const across = ({ x, y }: Point) => (((x - width / 2) * nx + (y - height / 2) * ny) / extent + 0.5) * 100;
  const at: NumberAt = { shotId: shot.id, layerId: layer.id, partId: mask.id, name: 'at' };
  const colour = tapeColour(layer.tape);
  return (
    <>
      <Drawing frame={frame} label={say`The line stands at ${value.toFixed(1)} per cent`}>
        <Stroke d={stroke((-n('inside') / 100) * height)} colour={colour} faint />
        <Stroke d={stroke((n('outside') / 100) * height)} colour={colour} faint />
        <Stroke d={stroke(0)} colour={colour} />
      </Drawing>
      <Handle
        at={{ x: held(width / 2 + nx * distance, width), y: held(height / 2 + ny * distance, height) }}
        frame={frame}
        colour={colour}
        label={say`Drag the line, at ${value.toFixed(1)} per cent`}
        testId="line-handle"
        onLive={(to) => setLive(to && across(to))}
        onDrop={(to) => setKey(at, playhead, across(to))}
        onNudge={(dx, dy) => setKey(at, playhead, value + dx + dy)}
      />
    </>
  );
}

const outline = (points: readonly Point[]) =>
  points.length ? `M${points.map((p) => `${p.x.toFixed(1)} ${p.y.toFixed(1)}`).join(' L')} Z` : '';

/** A polygon or smooth outline: a handle on every point, and the outline a few frames before and after it drawn faintly. */
export function PointMask({ project, shot, scene, layer, mask, playhead }: OverlayProps & { mask: Mask }) {
  const [live, setLive] = useState<{ i: number; to: Point } | null>(null);
  const { frame } = project;
  const move = mask.attachedToLayer ? layerMove(scene, layer, playhead, frame) : null;
  const onFrame = (f: number) =>
    maskPoints(scene, mask, f).map(({ x, y }) => {
      const p = { x: (x / 100) * frame.width, y: (y / 100) * frame.height };
      return move ? applied(move, p) : p;
    });
  const points = onFrame(playhead).map((p, i) => (live?.i === i ? live.to : p));
  const shape = (list: Point[]) => outline(mask.kind === 'outline' ? outlinePoints(list) : list);
  const ats = (i: number): NumberAt[] =>
    ['x', 'y'].map((axis) => ({ shotId: shot.id, layerId: layer.id, partId: mask.id, name: `${axis}${i}` }));
  const put = (i: number, to: Point) => {
    const own = move ? applied(inverted(move), to) : to;
    setKeys(ats(i), playhead, [(100 * own.x) / frame.width, (100 * own.y) / frame.height], say`Move a point of the mask`);
  };
  const colour = tapeColour(layer.tape);
  return (
    <>
      <Drawing frame={frame} label={say`A mask of ${points.length} points`}>
        <Stroke d={shape(onFrame(playhead - 5))} colour={colour} faint />
        <Stroke d={shape(onFrame(playhead + 5))} colour={colour} faint />
        <Stroke d={shape(points)} colour={colour} />
      </Drawing>
      {points.map((p, i) => (
        <Handle
          key={i}
          small
          at={p}
          frame={frame}
          colour={colour}
          label={say`Point ${i + 1} of the mask`}
          testId="mask-point"
          onLive={(to) => setLive(to && { i, to })}
          onDrop={(to) => put(i, to)}
          onNudge={(dx, dy) => put(i, { x: p.x + (dx * frame.width) / 100, y: p.y + (dy * frame.height) / 100 })}
        />
      ))}
    </>
  );
}

/** An ellipse or rectangle: a handle in its middle and one at its corner. */
export function BoxMask({ project, shot, scene, layer, mask, playhead }: OverlayProps & { mask: Mask }) {
  const [live, setLive] = useState<{ what: 'middle' | 'corner'; to: Point } | null>(null);
  const { frame } = project;
  const n = (name: string) => maskNumberAt(scene, mask, name, playhead);
  const stored = { x: (n('x') / 100) * frame.width, y: (n('y') / 100) * frame.height };
  const middle = live?.what === 'middle' ? live.to : stored;
  const half = { x: (n('width') / 200) * frame.width, y: (n('height') / 200) * frame.height };
  const size = live?.what === 'corner' ? { x: Math.abs(live.to.x - middle.x), y: Math.abs(live.to.y - middle.y) } : half;
  const at = (name: string): NumberAt => ({ shotId: shot.id, layerId: layer.id, partId: mask.id, name });
  const pointsOf = mask.kind === 'ellipse' ? ellipsePoints : rectanglePoints;
  const ring = pointsOf(middle.x, middle.y, size.x, size.y, n('turn'));
  const put = (to: Point) =>
    setKeys([at('x'), at('y')], playhead, [(100 * to.x) / frame.width, (100 * to.y) / frame.height], say`Move the mask`);
  const widen = (to: Point) =>
    setKeys(
      [at('width'), at('height')],
      playhead,
      [(200 * Math.abs(to.x - middle.x)) / frame.width, (200 * Math.abs(to.y - middle.y)) / frame.height],
      say`Widen the mask`,
    );
  const corner = { x: middle.x + size.x, y: middle.y + size.y };
  const colour = tapeColour(layer.tape);
  return (
    <>
      <Drawing frame={frame} label={say`A mask shaped as ${mask.kind === 'ellipse' ? say`an ellipse` : say`a rectangle`}`}>
        <Stroke d={outline(ring)} colour={colour} />
      </Drawing>
      <Handle
        at={{ x: held(middle.x, frame.width), y: held(middle.y, frame.height) }}
        frame={frame}
        colour={colour}
        label={say`Middle of the mask`}
        testId="mask-middle"
        onLive={(to) => setLive(to && { what: 'middle', to })}
        onDrop={put}
        onNudge={(dx, dy) => put({ x: middle.x + (dx * frame.width) / 100, y: middle.y + (dy * frame.height) / 100 })}
      />
      <Handle
        small
        at={{ x: held(corner.x, frame.width), y: held(corner.y, frame.height) }}
        frame={frame}
        colour={colour}
        label={say`Size of the mask`}
        testId="mask-size"
        onLive={(to) => setLive(to && { what: 'corner', to })}
        onDrop={widen}
        onNudge={(dx, dy) => widen({ x: corner.x + (dx * frame.width) / 100, y: corner.y + (dy * frame.height) / 100 })}
      />
    </>
  );
}
