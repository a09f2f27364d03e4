'use client';
import { useState } from 'react';
import { footageOf } from '@/core/document';
import { pulledSeam } from '@/core/edit';
import { seamKeyframeAt } from '@/core/evaluate';
import { type Mask, maskNumberAt } from '@/core/layer';
import { applied, inverted, type Point } from '@/core/picture';
import { fillFrame } from '@/core/sources';
import { say } from '@/core/words';
import { changeLayer } from '@/data/shots';
import { tapeColour } from '@/ui/tape';
import { Drawing, Handle, type OverlayProps, Stroke } from '@/views/shared';

const GRIPS = [10, 30, 50, 70, 90];

/** A measured seam over the picture: pulled at five places along it; what is near goes along. */
export function SeamMask({ project, shot, scene, layer, mask, playhead }: OverlayProps & { mask: Extract<Mask, { kind: 'seam' }> }) {
  const [live, setLive] = useState<{ along: number; by: number } | null>(null);
  if (layer.source.kind !== 'take') return null;
  const { frame } = project;
  const source = footageOf(project, layer.source.takeId);
  const keyframe = seamKeyframeAt(scene, mask.keyframes, playhead);
  const across = keyframe.across === true;
  const push = maskNumberAt(scene, mask, 'shift', playhead);
  const toSource = fillFrame(frame, source, shot.overscan, null);
  const onFrame = inverted(toSource);
  const points = live ? pulledSeam(keyframe, live.along, live.by) : keyframe.points;
  const shown = points.map(({ x, y }) =>
    applied(onFrame, { x: ((across ? x : x + push) / 100) * source.width, y: ((across ? y + push : y) / 100) * source.height }),
  );
  const along = ({ x, y }: Point) => (across ? x : y);
  const grips = GRIPS.map((at) => {
    const i = keyframe.points.reduce((best, p, k) => (Math.abs(along(p) - at) < Math.abs(along(keyframe.points[best]) - at) ? k : best), 0);
    return { at: along(keyframe.points[i]), i };
  });
  /** How far a point of the frame lies beside where the seam was, per cent of the picture. */
  const byOf = (i: number, to: Point) => {
    const there = applied(toSource, to);
    const { x, y } = keyframe.points[i];
    return across ? (100 * there.y) / source.height - y - push : (100 * there.x) / source.width - x - push;
  };
  const pull = (at: number, by: number) =>
    changeLayer(shot.id, layer.id, say`Pull the seam`, (l) => ({
      ...l,
      masks: l.masks.map((m) =>
        m.id === mask.id && m.kind === 'seam'
          ? { ...m, keyframes: m.keyframes.map((k) => (k === keyframe ? { ...k, points: pulledSeam(k, at, by) } : k)) }
          : m,
      ),
    }));
  const colour = tapeColour(layer.tape);
  return (
    <>
      <Drawing frame={frame} label={say`The seam`}>
        <Stroke d={shown.map((p, i) => `${i ? 'L' : 'M'}${p.x.toFixed(1)} ${p.y.toFixed(1)}`).join(' ')} colour={colour} />
      </Drawing>
      {grips.map(({ at, i }) => (
        <Handle
          key={i}
          at={shown[i]}
          frame={frame}
          colour={colour}
          label={say`Pull the seam at ${at.toFixed(0)} per cent along it`}
          testId="seam-handle"
          small
          onLive={(to) => setLive(to && { along: at, by: byOf(i, to) })}
          onDrop={(to) => pull(at, byOf(i, to))}
          onNudge={(dx, dy) => pull(at, across ? dy : dx)}
        />
      ))}
    </>
  );
}
