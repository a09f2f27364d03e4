'use client';
import { Fragment, useEffect, useMemo, useRef, useState } from 'react';
import { footageOf, type Project, type Take } from '@/core/document';
import type { Point } from '@/core/picture';
import { say } from '@/core/words';
import { setHandPoints } from '@/data/media';
import { Button } from '@/ui/controls';
import { tapeColour } from '@/ui/tape';
import { Handle } from '@/views/shared';
import { useAlignedPicture } from './use-aligned';

type Pair = [number, number, number, number];

/** Where points lie at first: in the corners, where the set is rather than the performer. Shares of the picture's sides from its middle. */
const FIRST: readonly (readonly [number, number])[] = [
  [-0.35, -0.3],
  [0.35, -0.3],
  [0.35, 0.3],
  [-0.35, 0.3],
];

/** A picture with a numbered point on each spot that is set in it. */
function Spots({
  picture,
  name,
  size,
  points,
  onMove,
}: {
  picture: ImageData | null;
  name: string;
  size: { width: number; height: number };
  points: readonly Point[];
  onMove: (i: number, to: Point) => void;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [live, setLive] = useState<{ i: number; to: Point } | null>(null);
  useEffect(() => {
    const page = canvas.current;
    if (!page || !picture) return;
    page.width = picture.width;
    page.height = picture.height;
    page.getContext('2d')?.putImageData(picture, 0, 0);
  }, [picture]);
  const within = ({ x, y }: Point): Point => ({ x: Math.max(0, Math.min(size.width, x)), y: Math.max(0, Math.min(size.height, y)) });
  return (
    <figure>
      <div className="relative overflow-hidden bg-well" style={{ aspectRatio: size.width / size.height }}>
        <canvas ref={canvas} className="absolute inset-0 h-full w-full" aria-hidden />
        {points.map((point, i) => {
          const at = live?.i === i ? within(live.to) : point;
          return (
            <Fragment key={FIRST[i].join()}>
              <Handle
                at={at}
                frame={size}
                colour={tapeColour(i)}
                label={say`Point ${i + 1} in ${name}`}
                testId={`spot-${i + 1}`}
                small
                hollow
                onLive={(to) => setLive(to && { i, to })}
                onDrop={(to) => onMove(i, within(to))}
                onNudge={(dx, dy) => onMove(i, within({ x: point.x + dx, y: point.y + dy }))}
              />
              <span
                className="num pointer-events-none absolute ml-3 -translate-y-7 bg-black/65 px-1 text-sm text-white"
                style={{ left: `${(100 * at.x) / size.width}%`, top: `${(100 * at.y) / size.height}%` }}
              >
                {i + 1}
              </span>
            </Fragment>
          );
        })}
      </div>
      <figcaption className="text-sm text-faint">{name}</figcaption>
    </figure>
  );
}

/** The same spots of the set, set by hand in a take and in its reference: what cannot be found is laid by them. */
export function ByPoints({ project, take, reference, onDone }: { project: Project; take: Take; reference: Take; onDone: () => void }) {
  const [media, other] = [footageOf(project, take.id), footageOf(project, reference.id)];
  const { width, height } = media;
  const known = take.byHand?.referenceTakeId === reference.id ? take.byHand.pairs : null;
  const [pairs, setPairs] = useState<Pair[]>(
    () => known?.map((p): Pair => [...p]) ?? FIRST.slice(0, 2).map(([x, y]): Pair => [x * width, y * height, x * width, y * height]),
  );
  // biome-ignore lint/correctness/useExhaustiveDependencies: anew only for another take
  const [here, there] = useMemo(
    () => [
      { media, correction: null },
      { media: other, correction: null },
    ],
    [take.id, reference.id],
  );
  const middle = ({ from, to }: { from: number; to: number }) => from + Math.min(0.5, (to - from) / 2);
  const [first, second] = [useAlignedPicture(there, middle(other)), useAlignedPicture(here, middle(media))];
  const moved = (i: number, side: 0 | 2, { x, y }: Point) =>
    setPairs((now) =>
      now.map((p, k) => (k === i ? (p.map((v, c) => (c === side ? x - width / 2 : c === side + 1 ? y - height / 2 : v)) as Pair) : p)),
    );
  const spots = (side: 0 | 2) => pairs.map((p): Point => ({ x: p[side] + width / 2, y: p[side + 1] + height / 2 }));
  const add = () => {
    const [x, y] = FIRST[pairs.length];
    setPairs([...pairs, [x * width, y * height, x * width, y * height]]);
  };
  return (
    <div className="space-y-2 border border-rule p-3" data-testid="by-points">
      <p className="text-sm">
        {say`Drag each number to the same spot of the set in both pictures: corners of things that stand still, far apart. Two give the shift, the turn and the size, four the perspective too. What can be followed near them is then measured to parts of a pixel.`}
      </p>
      <div className="grid gap-2 sm:grid-cols-2">
        <Spots picture={first} name={other.name} size={{ width, height }} points={spots(0)} onMove={(i, to) => moved(i, 0, to)} />
        <Spots picture={second} name={media.name} size={{ width, height }} points={spots(2)} onMove={(i, to) => moved(i, 2, to)} />
      </div>
      <div className="flex flex-wrap gap-2">
        <Button
          kind="main"
          onClick={() => {
            setHandPoints(take.id, reference.id, pairs);
            onDone();
          }}
        >
          {say`Lay it by these points`}
        </Button>
        {pairs.length < 4 && <Button onClick={add}>{say`Add a point`}</Button>}
        {pairs.length > 2 && <Button onClick={() => setPairs(pairs.slice(0, -1))}>{say`Take the last point away`}</Button>}
        {known && (
          <Button
            onClick={() => {
              setHandPoints(take.id, reference.id, null);
              onDone();
            }}
          >
            {say`Forget the points`}
          </Button>
        )}
      </div>
    </div>
  );
}
