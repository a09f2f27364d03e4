'use client';
import { useEffect, useRef } from 'react';
import { safeAreas } from '@/core/picture';
import { say } from '@/core/words';
import { usePlayback } from '@/data/playback';
import { filmPicture } from '@/data/player';
import { useSettledPlayhead } from '@/data/playhead';
import { useProject } from '@/data/store';
import { Drawing, Stroke } from './handle';
import { usePictureAids } from './picture-aids';
import { put } from './use-picture';

const INK = '#b3402f';
const rectangle = (left: number, top: number, right: number, bottom: number) => `M${left} ${top}H${right}V${bottom}H${left}Z`;

/** Thirds and the middle, and what is sure to be seen of the frame. */
export function Guides({ frame }: { frame: { width: number; height: number } }) {
  const { guides, safe } = usePictureAids();
  const { width, height } = frame;
  if (!guides && !safe) return null;
  const arm = 0.02 * height;
  return (
    <>
      {guides && (
        <Drawing frame={frame} label={say`Thirds and the middle`}>
          {[1, 2].map((n) => (
            <Stroke key={n} colour={INK} faint d={`M${(n * width) / 3} 0V${height} M0 ${(n * height) / 3}H${width}`} />
          ))}
          <Stroke
            colour={INK}
            d={`M${width / 2 - arm} ${height / 2}H${width / 2 + arm} M${width / 2} ${height / 2 - arm}V${height / 2 + arm}`}
          />
        </Drawing>
      )}
      {safe && (
        <Drawing
          frame={frame}
          label={say`Safe areas: ${safeAreas(width, height)
            .map((a) => a.name)
            .join(', ')}`}
        >
          {safeAreas(width, height).map((a) => (
            <Stroke key={a.name} faint={a.name === 'action'} colour={INK} d={rectangle(a.left, a.top, a.right, a.bottom)} />
          ))}
        </Drawing>
      )}
    </>
  );
}

/** Another frame of the film seen through the picture. */
function Skin({ off }: { off: number }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const project = useProject((s) => s.project);
  const frame = useSettledPlayhead() + off;
  useEffect(() => {
    let alive = true;
    if (!project || frame < 0) return;
    filmPicture(project, frame)
      .then((picture) => alive && canvas.current && put(canvas.current, picture, frame))
      // The picture itself says what is wrong.
      .catch(() => undefined);
    return () => {
      alive = false;
    };
  }, [project, frame]);
  return (
    <canvas
      ref={canvas}
      className="pointer-events-none absolute inset-0 h-full w-full opacity-40"
      data-testid="onion-skin"
      role="img"
      aria-label={off < 0 ? say`${-off} frames before, seen through` : say`${off} frames after, seen through`}
    />
  );
}

/** Frames before and after seen through the picture while it stands. */
export function OnionSkins() {
  const { before, after } = usePictureAids();
  const playing = usePlayback((s) => s.playing);
  if (playing) return null;
  return (
    <>
      {before > 0 && <Skin off={-before} />}
      {after > 0 && <Skin off={after} />}
    </>
  );
}
