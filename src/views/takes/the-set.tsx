'use client';
import { useEffect, useRef, useState } from 'react';
import { footageName, footageOf, type Project, type Take } from '@/core/document';
import { plateVerdict } from '@/core/measure';
import { toRgba } from '@/core/picture';
import { say } from '@/core/words';
import { isPlate } from '@/data/media';
import { occupancyMap, type SetPlate, setPlate, setUpOf } from '@/data/set-up';
import { download, slug } from '@/data/stored';
import { Button, Note, Tape, Working } from '@/ui/controls';
import { tapeColour } from '@/ui/tape';
import { SelectField, TickField } from '@/ui/value-field';
import { useJob } from '@/views/shared';

interface Standing {
  take: Take;
  width: number;
  height: number;
  share: Uint8Array;
}

const channels = (colour: string) => [1, 3, 5].map((k) => Number.parseInt(colour.slice(k, k + 2), 16));

/** The plate with its holes and where each take's figure ever stands, in its tape's colour. */
function drawSet(canvas: HTMLCanvasElement, plate: SetPlate, standing: readonly Standing[], holes: boolean): void {
  const { width, height } = plate.planes;
  const rgba = new Uint8ClampedArray(4 * width * height);
  toRgba(plate.planes, rgba);
  for (let i = 0; i < width * height; i++) {
    const [x, y] = [i % width, Math.floor(i / width)];
    for (const s of standing) {
      const at =
        Math.min(s.height - 1, Math.floor((y * s.height) / height)) * s.width + Math.min(s.width - 1, Math.floor((x * s.width) / width));
      const share = s.share[at];
      if (share === 0) continue;
      const k = 0.25 + 0.45 * Math.sqrt(share / 255);
      channels(tapeColour(s.take.tape)).forEach((c, n) => {
        rgba[4 * i + n] += (c - rgba[4 * i + n]) * k;
      });
    }
    if (holes && plate.holes.data[i]) {
      const stripe = (x + y) % 8 < 4;
      rgba.set(stripe ? [181, 71, 47] : [255, 250, 240], 4 * i);
    }
  }
  canvas.width = width;
  canvas.height = height;
  canvas.getContext('2d')?.putImageData(new ImageData(rgba, width, height), 0, 0);
  canvas.dataset.drawn = String(standing.length);
}

/** The empty set of a planned shot, made from its takes, and where everybody stands in it. */
export function TheSet({ project }: { project: Project }) {
  const starts = [...new Map(project.takes.map((t) => [t.plan ?? '', t])).values()];
  const [setUp, setSetUp] = useState(starts[0]?.plan ?? '');
  const [plate, setMade] = useState<SetPlate | null>(null);
  const [standing, setStanding] = useState<readonly Standing[]>([]);
  const [shown, setShown] = useState({ holes: true, people: true });
  const { doing, problem, run, stop } = useJob();
  const canvas = useRef<HTMLCanvasElement>(null);
  const start = starts.find((t) => (t.plan ?? '') === setUp) ?? starts[0];
  const acted = setUpOf(project, start).filter((t) => !isPlate(project, t));
  const make = async () => {
    const made = await run(say`Making the empty set`, (tell, signal) => setPlate(project, start, tell, signal));
    if (!made) return;
    setMade(made);
    for (const take of acted) {
      const where = await run(say`Looking where the performer is in ${footageName(footageOf(project, take.id))}`, (tell, signal) =>
        occupancyMap(project, take, tell, signal),
      );
      if (!where) return;
      setStanding((s) => [...s.filter((q) => q.take.id !== take.id), { take, ...where }]);
    }
  };
  // biome-ignore lint/correctness/useExhaustiveDependencies: made when another set-up is looked at
  useEffect(() => {
    setMade(null);
    setStanding([]);
    void make();
  }, [setUp]);
  useEffect(() => {
    if (canvas.current && plate) drawSet(canvas.current, plate, shown.people ? standing : [], shown.holes);
  }, [plate, standing, shown]);
  const verdict = plate && plateVerdict(plate, plate.frames);
  const save = async () => {
    if (!plate) return;
    const page = document.createElement('canvas');
    drawSet(page, plate, [], false);
    page.toBlob((blob) => blob && download(blob, `${slug(project.name)}-plate.png`));
  };
  return (
    <div className="grid gap-4 lg:grid-cols-[1fr_20rem]">
      <div className="min-w-0 self-start bg-well">
        {plate ? (
          <canvas
            ref={canvas}
            className="block w-full"
            role="img"
            aria-label={say`The empty set, and where everybody stands`}
            data-testid="the-set"
          />
        ) : (
          <p className="flex aspect-video items-center justify-center p-4 text-center text-white">
            {doing ? say`The empty set is being made.` : say`No empty set yet.`}
          </p>
        )}
      </div>
      <div className="space-y-3">
        <SelectField
          label={say`Planned shot`}
          value={setUp}
          options={starts.map(
            (t) => [t.plan ?? '', project.plans.find((p) => p.id === t.plan)?.name ?? say`takes without a plan`] as const,
          )}
          onChange={setSetUp}
        />
        {doing && <Working text={doing.text} done={doing.done} onStop={stop} />}
        {!doing && standing.length < acted.length && <Button onClick={() => void make()}>{say`Go on`}</Button>}
        {problem && <Note level="bad">{problem}</Note>}
        {verdict && <Note level={verdict.level}>{verdict.text}</Note>}
        <TickField label={say`Holes, hatched`} value={shown.holes} onChange={(holes) => setShown({ ...shown, holes })} />
        <TickField
          label={say`Where everybody is, darker where longer`}
          value={shown.people}
          onChange={(people) => setShown({ ...shown, people })}
        />
        <ul className="space-y-1">
          {standing.map(({ take, share }) => (
            <li key={take.id}>
              <Tape index={take.tape}>{footageName(footageOf(project, take.id))}</Tape>{' '}
              <span className="num text-sm text-faint">
                {say`${((100 * share.filter((v) => v > 0).length) / share.length).toFixed(1)} % of the frame`}
              </span>
            </li>
          ))}
        </ul>
        {plate && <Button onClick={() => void save()}>{say`Save the plate as PNG`}</Button>}
      </div>
    </div>
  );
}
