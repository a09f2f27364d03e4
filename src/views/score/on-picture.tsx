'use client';
import type { Project, Shot } from '@/core/document';
import { sceneOf } from '@/core/evaluate';
import { layerFrames } from '@/core/layer';
import { usePlayback } from '@/data/playback';
import { useSettledPlayhead } from '@/data/playhead';
import { keysOf } from '@/data/shots';
import { BoxMask, LineMask, PointMask } from './mask-overlays';
import { PositionPath } from './position-path';
import { SeamMask } from './seam-mask';
import { shownNumber, useScore } from './use-score';

/** What lies over the film's picture for the number that is shown: its mask, or the path of its layer. */
export function OnPicture({ project, shot }: { project: Project; shot: Shot }) {
  const playhead = useSettledPlayhead();
  const playing = usePlayback((s) => s.playing);
  const number = useScore((s) => s.number);
  const at = shownNumber(shot, number);
  const layer = shot.layers.find((l) => l.id === at?.layerId);
  if (!at || !layer) return null;
  const scene = sceneOf(project, shot);
  const [from, to] = layerFrames(scene, layer);
  // What is dragged stands still; while it plays there is the picture alone.
  if (playing || playhead < from || playhead >= to) return null;
  const mask = layer.masks.find((m) => m.id === at.partId);
  const props = { project, shot, scene, layer, playhead };
  if (mask?.kind === 'line') return <LineMask {...props} mask={mask} />;
  if (mask?.kind === 'polygon' || mask?.kind === 'outline') return <PointMask {...props} mask={mask} />;
  if (mask?.kind === 'ellipse' || mask?.kind === 'rectangle') return <BoxMask {...props} mask={mask} />;
  if (mask?.kind === 'seam') return <SeamMask {...props} mask={mask} />;
  if (at.partId === null && ['x', 'y', 'scale', 'turn'].includes(at.name) && keysOf(shot, at)) return <PositionPath {...props} />;
  return at.partId === null && (at.name === 'x' || at.name === 'y') ? <PositionPath {...props} /> : null;
}
