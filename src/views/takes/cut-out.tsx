'use client';
import { type PointerEvent, useEffect, useRef, useState } from 'react';
import { type CutAlong, footageName, footageOf, type Project, type Stroke } from '@/core/document';
import { AROUND, brush, lasso, type Strokes } from '@/core/measure';
import { say } from '@/core/words';
import { changeCut } from '@/data/cut-along';
import { isPlate } from '@/data/media';
import { cutFigure, freeFigure, keyFigure } from '@/data/set-up';
import { download, slug } from '@/data/stored';
import type { CutOutResult } from '@/media/cut-out';
import { Button, Note, NumberField, Working } from '@/ui/controls';
import { Slider } from '@/ui/slider';
import { SelectField } from '@/ui/value-field';
import { useJob, useThumbnail } from '@/views/shared';
import { AlongPicture, CutAlongPanel, useKeptAlong } from './cut-along';
import { drawOn, GROUNDS, type Ground } from './grounds';

const TOOLS = [
  ['add', say`brush: belongs to the figure`],
  ['drop', say`brush: does not belong`],
  ['undo', say`brush: as measured`],
  ['around', say`lasso: it is in here`],
  ['lasso-add', say`lasso: belongs to the figure`],
  ['lasso-drop', say`lasso: does not belong`],
] as const;
type Tool = (typeof TOOLS)[number][0];
const VALUES: Record<Tool, 0 | 1 | 2 | 3> = { add: 1, drop: 2, undo: 0, around: AROUND, 'lasso-add': 1, 'lasso-drop': 2 };
const isLasso = (tool: Tool) => tool === 'around' || tool.startsWith('lasso');
const WAYS = [
  ['set', say`the empty set`],
  ['key', say`a blue or green backing`],
  ['free', say`the person, or what I draw around`],
] as const;
type Way = (typeof WAYS)[number][0];

/** What a tool says of what it covers; null for those that only help to find the figure. */
const SAYS: Record<Tool, Stroke['says'] | null> = {
  add: 'figure',
  drop: 'set',
  undo: 'measured',
  around: null,
  'lasso-add': 'figure',
  'lasso-drop': 'set',
};
/** How a way to cut one frame out is called along a take. */
const ALONG: Record<Way, CutAlong['way']> = { set: 'set', key: 'key', free: 'person' };

const hundredth = (v: number) => Math.round(100 * v) / 100;
/** As many points of a line as are kept of it. */
const thinned = (line: [number, number][]) => line.filter((_, i) => i % Math.max(1, Math.ceil(line.length / 1000)) === 0);

/** The figure cut out of one frame: measured, then corrected by brush and lasso, seen on several grounds, saved with its coverage. */
export function CutOut({ project }: { project: Project }) {
  const takes = project.takes.filter((t) => !isPlate(project, t));
  const [id, setId] = useState(takes[0]?.id ?? '');
  const [wantedTime, setTime] = useState(1);
  const [cut, setCut] = useState<CutOutResult | null>(null);
  const [ground, setGround] = useState<Ground>('checks');
  const [tool, setTool] = useState<Tool>('add');
  const [size, setSize] = useState(14);
  const [by, setBy] = useState<Way>('set');
  const [tolerance, setTolerance] = useState(30);
  const strokes = useRef<Strokes | null>(null);
  const [drawn, setDrawn] = useState<Stroke[]>([]);
  const [choosing, setChoosing] = useState(false);
  const line = useRef<[number, number][]>([]);
  const canvas = useRef<HTMLCanvasElement>(null);
  const { doing, problem, run, stop } = useJob();
  const take = takes.find((t) => t.id === id) ?? takes[0];
  const media = take && footageOf(project, take.id);
  const time = media ? Math.min(Math.max(wantedTime, media.from), media.to) : wantedTime;
  const kept = useKeptAlong(project, take);
  const before = useThumbnail(media?.id ?? '', media?.width ?? 1280, time);
  useEffect(() => {
    if (canvas.current && cut) drawOn(canvas.current, { ...cut.matte, rgba: cut.rgba }, ground);
  }, [cut, ground]);
  if (!take || !media) return <Note level="unsure">{say`A take with somebody in it is needed. Take one in under Shoot.`}</Note>;
  const again = async () => {
    const made = await run(say`Cutting the figure out`, (tell, signal) =>
      by === 'key'
        ? keyFigure(project, take, time, tolerance / 100, signal)
        : (by === 'free' ? freeFigure : cutFigure)(project, take, time, strokes.current, tell, signal),
    );
    if (!made) return;
    // Nobody was recognised: a line around the figure is what helps.
    if (made.note && by === 'free') setTool('around');
    strokes.current ??= new Uint8Array(made.matte.alpha.length);
    setCut(made);
  };
  const forget = () => {
    strokes.current = null;
    setDrawn([]);
    setCut(null);
  };
  const where = (e: PointerEvent): [number, number] => {
    const area = canvas.current?.getBoundingClientRect();
    if (!area || !cut) return [0, 0];
    return [((e.clientX - area.left) / area.width) * cut.matte.width, ((e.clientY - area.top) / area.height) * cut.matte.height];
  };
  const finish = () => {
    const { current: marks } = strokes;
    if (!cut || !marks || by === 'key' || line.current.length === 0) return;
    const { width, height } = cut.matte;
    if (isLasso(tool)) lasso(marks, width, height, line.current, VALUES[tool]);
    else brush(marks, width, height, line.current, size, VALUES[tool]);
    const says = SAYS[tool];
    const inPerCent = ([x, y]: [number, number]): [number, number] => [hundredth((100 * x) / width), hundredth((100 * y) / height)];
    const stroke = {
      by: isLasso(tool) ? 'lasso' : 'brush',
      radius: hundredth((100 * size) / height),
      points: thinned(line.current).map(inPerCent),
    } as const;
    if (says) setDrawn((all) => [...all, { ...stroke, says }]);
    line.current = [];
    void again();
  };
  const save = () => {
    if (!cut) return;
    const { width, height, alpha } = cut.matte;
    const page = document.createElement('canvas');
    page.width = width;
    page.height = height;
    const data = new ImageData(new Uint8ClampedArray(cut.rgba), width, height);
    for (let i = 0; i < alpha.length; i++) data.data[4 * i + 3] = alpha[i];
    page.getContext('2d')?.putImageData(data, 0, 0);
    page.toBlob((blob) => blob && download(blob, `${slug(media.name)}-cut-out.png`));
  };
  return (
    <div className="grid gap-4 lg:grid-cols-[1fr_20rem]">
      <div className="min-w-0">
        <div className="bg-well">
          {cut ? (
            <canvas
              ref={canvas}
              className="block w-full cursor-crosshair touch-none"
              role="img"
              aria-label={say`The figure cut out`}
              data-testid="cut-out"
              onPointerDown={(e) => {
                if (choosing) {
                  const [x, y] = where(e);
                  const { width, height } = cut.matte;
                  changeCut(take.id, say`Cut one figure out`, (c) => ({
                    ...c,
                    chosen: { time, x: hundredth((100 * x) / width), y: hundredth((100 * y) / height) },
                  }));
                  setChoosing(false);
                  return;
                }
                e.currentTarget.setPointerCapture(e.pointerId);
                line.current = [where(e)];
              }}
              onPointerMove={(e) => {
                if (line.current.length === 0) return;
                const [x, y] = where(e);
                const pen = canvas.current?.getContext('2d');
                const [px, py] = line.current[line.current.length - 1];
                line.current.push([x, y]);
                if (!pen) return;
                pen.strokeStyle = VALUES[tool] === 2 ? 'rgba(181,71,47,0.7)' : 'rgba(47,109,112,0.7)';
                pen.lineWidth = isLasso(tool) ? 3 : 2 * size;
                pen.lineCap = 'round';
                pen.beginPath();
                pen.moveTo(px, py);
                pen.lineTo(x, y);
                pen.stroke();
              }}
              onPointerUp={finish}
              onPointerCancel={() => {
                line.current = [];
              }}
            />
          ) : kept ? (
            <AlongPicture project={project} take={take} kept={kept} time={time} ground={ground} />
          ) : before ? (
            <img src={before} alt={say`The frame to cut from`} className="w-full" />
          ) : (
            <p className="flex aspect-video items-center justify-center text-white">{say`Reading the take…`}</p>
          )}
        </div>
        <Slider
          label={say`Second of the take`}
          value={time}
          min={media.from}
          max={Math.max(media.from + 0.1, media.to - 0.05)}
          step={0.04}
          onChange={(v) => {
            setTime(v);
            forget();
          }}
        />
      </div>
      <div className="space-y-3">
        <SelectField
          label={say`Take`}
          value={take.id}
          options={takes.map((t) => [t.id, footageName(footageOf(project, t.id))] as const)}
          onChange={(v) => {
            setId(v);
            forget();
          }}
        />
        <SelectField
          label={say`Cut by`}
          value={by}
          options={WAYS}
          onChange={(v) => {
            setBy(v as Way);
            setTool('add');
            forget();
          }}
        />
        {by === 'key' && (
          <NumberField label={say`Tolerance`} unit="%" value={tolerance} min={0} max={100} step={5} onChange={setTolerance} />
        )}
        <NumberField
          label={say`Frame at`}
          unit="s"
          value={time}
          min={media.from}
          max={media.to}
          step={0.04}
          digits={2}
          onChange={(v) => {
            setTime(v);
            forget();
          }}
        />
        <Button kind="main" className="w-full" disabled={doing !== null} onClick={() => void again()}>
          {cut ? say`Cut out anew` : say`Cut the figure out`}
        </Button>
        {doing && <Working text={doing.text} done={doing.done} onStop={stop} />}
        {problem && <Note level="bad">{problem}</Note>}
        {cut && (
          <>
            <SelectField label={say`Seen on`} value={ground} options={GROUNDS} onChange={(v) => setGround(v as Ground)} />
            {cut.note && <Note level="unsure">{cut.note}</Note>}
            {by !== 'key' && (
              <>
                <SelectField
                  label={say`Draw on it with`}
                  value={tool}
                  options={TOOLS.filter(([t]) => by === 'free' || t !== 'around')}
                  onChange={(v) => setTool(v as Tool)}
                />
                <NumberField label={say`Size of the brush`} unit="px" value={size} min={1} max={120} onChange={setSize} />
              </>
            )}
            <Button className="w-full" onClick={save}>
              {say`Save the cut-out as PNG`}
            </Button>
          </>
        )}
        {!cut && kept && <SelectField label={say`Seen on`} value={ground} options={GROUNDS} onChange={(v) => setGround(v as Ground)} />}
        <CutAlongPanel
          key={take.id}
          project={project}
          take={take}
          way={ALONG[by]}
          tolerance={tolerance}
          time={time}
          strokes={drawn}
          kept={kept}
          choosing={choosing && cut !== null}
          onChoose={(on) => {
            setChoosing(on);
            if (on && !cut) void again();
          }}
          onSeek={(t) => {
            setTime(t);
            forget();
          }}
          onKept={forget}
        />
      </div>
    </div>
  );
}
