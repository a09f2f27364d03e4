'use client';
import { useState } from 'react';
import { layerFrames, layerNumber, trackOf } from '@/core/layer';
import type { Point } from '@/core/picture';
import { say } from '@/core/words';
import { setKeys } from '@/data/shots';
import { tapeColour } from '@/ui/tape';
import { Drawing, Handle, held, type OverlayProps, Stroke } from '@/views/shared';

/** A layer's position: a handle where its pivot is, and its path over the shot as dots, one a frame, so that their spacing is its speed. */
export function PositionPath({ project, shot, scene, layer, playhead }: OverlayProps) {
  const [live, setLive] = useState<Point | null>(null);
  const { frame } = project;
  const pivot = (f: number): Point => {
    const n = (name: Parameters<typeof layerNumber>[2]) => layerNumber(scene, layer, name, f);
    return { x: frame.width * (0.5 + (n('pivotX') + n('x')) / 100), y: frame.height * (0.5 + (n('pivotY') + n('y')) / 100) };
  };
  const [first, end] = layerFrames(scene, layer);
  const keyed = (['x', 'y'] as const).flatMap((name) =>
    layer.numbers[name] ? trackOf(scene, layer.numbers[name]).map((k) => k.frame) : [],
  );
  const from = keyed.length ? Math.max(first, Math.min(...keyed)) : playhead;
  const to = keyed.length ? Math.min(end - 1, Math.max(...keyed)) : playhead;
  const dots = Array.from({ length: Math.min(400, to - from + 1) }, (_, i) => ({ f: from + i, p: pivot(from + i) }));
  const here = live ?? pivot(playhead);
  const now = pivot(playhead);
  const put = (point: Point) => {
    const base = { x: layerNumber(scene, layer, 'x', playhead), y: layerNumber(scene, layer, 'y', playhead) };
    setKeys(
      (['x', 'y'] as const).map((name) => ({ shotId: shot.id, layerId: layer.id, partId: null, name })),
      playhead,
      [base.x + (100 * (point.x - now.x)) / frame.width, base.y + (100 * (point.y - now.y)) / frame.height],
      say`Move the layer`,
    );
  };
  const colour = tapeColour(layer.tape);
  return (
    <>
      <Drawing frame={frame} label={say`The path of ${layer.name}`}>
        <Stroke d={dots.map(({ p }, i) => `${i ? 'L' : 'M'}${p.x.toFixed(1)} ${p.y.toFixed(1)}`).join(' ')} colour={colour} faint />
        {dots.map(({ f, p }) => (
          <circle key={f} cx={p.x} cy={p.y} r={keyed.includes(f) ? 9 : 4} fill={colour} stroke="#fffaf0" strokeWidth="1.5" />
        ))}
      </Drawing>
      <Handle
        at={{ x: held(here.x, frame.width), y: held(here.y, frame.height) }}
        frame={frame}
        colour={colour}
        label={say`Position of ${layer.name}`}
        testId="layer-handle"
        onLive={setLive}
        onDrop={put}
        onNudge={(dx, dy) => put({ x: now.x + (dx * frame.width) / 100, y: now.y + (dy * frame.height) / 100 })}
      />
    </>
  );
}
