'use client';
import { useRouter } from 'next/navigation';
import { useMemo, useState } from 'react';
import type { Collision, Cut } from '@/core/measure';
import { pathX } from '@/core/picture';
import { beatMapOf, footageName, footageOf, type Project, type SeamMix, type Take } from '@/core/shot';
import { fps } from '@/core/time';
import { syncMedia } from '@/data/jobs';
import { isPlate } from '@/data/media';
import { cutsBetween, laySeam, type Span, seamBetween, setUpOf, standsOf } from '@/data/together';
import type { SeamResult } from '@/media/together';
import { Button, Note, NumberField, Working } from '@/ui/parts';
import { Slider } from '@/ui/slider';
import { SelectField } from '@/ui/value-field';
import { type Compare, ComparePicture, type Edge, MOST_ZOOM } from './compare-picture';
import { SeamOnPicture } from './seam-on-picture';
import { useJob } from './use-job';
import { useLaid, useLaidPicture } from './use-laid';

const WAYS: readonly (readonly [Compare, string])[] = [
  ['seam', 'along the seam'],
  ['wipe', 'split where you point'],
  ['blink', 'in turns'],
  ['difference', 'their difference, eightfold'],
  ['first', 'the first alone'],
  ['second', 'the second alone'],
];

interface Found {
  seam: SeamResult;
  collisions: Collision[];
  stands: SeamMix['stands'];
}

/** The stand that holds at a second of the span. */
const standAt = (stands: SeamMix['stands'], at: number) => stands.findLast((s) => s.from <= at + 1e-6) ?? stands[0];

/** Two takes of one set-up: compared, lined up by sound, joined along a seam; and where one could cut to the other. */
export function Together({ project }: { project: Project }) {
  const acted = project.takes.filter((t) => !isPlate(project, t));
  const starts = [...new Map(acted.map((t) => [t.plan ?? '', t])).values()];
  // The set-up that has most takes to lay together comes first.
  const best = starts.sort((a, b) => setUpOf(project, b).length - setUpOf(project, a).length);
  const preferred = best.find((t) => project.plans.find((p) => p.id === t.plan)?.recipe === 'clones') ?? best[0];
  const [setUp, setSetUp] = useState(preferred?.plan ?? '');
  const takes = acted.filter((t) => (t.plan ?? '') === setUp);
  if (takes.length < 2)
    return (
      <div className="space-y-3">
        <SetUpField project={project} starts={starts} value={setUp} onChange={setSetUp} />
        <Note level="unsure">Two takes of one planned shot are needed, both with somebody in them. Take the second in under Shoot.</Note>
      </div>
    );
  return (
    <div className="space-y-4">
      <SetUpField project={project} starts={starts} value={setUp} onChange={setSetUp} />
      <Pair key={setUp} project={project} takes={takes} />
    </div>
  );
}

function SetUpField({
  project,
  starts,
  value,
  onChange,
}: {
  project: Project;
  starts: readonly Take[];
  value: string;
  onChange: (v: string) => void;
}) {
  return (
    <div className="max-w-xs">
      <SelectField
        label="Planned shot"
        value={value}
        options={starts.map((t) => [t.plan ?? '', project.plans.find((p) => p.id === t.plan)?.name ?? 'takes without a plan'] as const)}
        onChange={onChange}
      />
    </div>
  );
}

function Pair({ project, takes }: { project: Project; takes: readonly Take[] }) {
  const router = useRouter();
  const { doing, problem, run, stop } = useJob();
  const [ids, setIds] = useState<[string, string]>([takes[0].id, takes[takes.length - 1].id]);
  const [wantedFrom, setFrom] = useState<[number, number]>([0, 0]);
  const [at, setAt] = useState(1);
  const [how, setHow] = useState<Compare>('wipe');
  const [wipe, setWipe] = useState(50);
  const [zoom, setZoom] = useState(1);
  const [found, setFound] = useState<Found | null>(null);
  const [cuts, setCuts] = useState<(Cut & { outAt: number; intoAt: number })[] | null>(null);
  const [said, setSaid] = useState('');
  const [first, second] = ids.map((id) => takes.find((t) => t.id === id) ?? takes[0]);
  const media = [first, second].map((t) => footageOf(project, t.id));
  const from = media.map((m, i) => Math.min(Math.max(wantedFrom[i], m.from), m.to - 0.2));
  const seconds = Math.max(0.2, Math.min(...media.map((m, i) => m.to - from[i])));
  const [a, b] = [useLaid(project, first), useLaid(project, second)];
  const pictures = [useLaidPicture(a.lies, from[0] + at), useLaidPicture(b.lies, from[1] + at)] as const;
  const stand = found && standAt(found.stands, at);
  const edge = useMemo<Edge>(() => (row) => (how === 'seam' && stand ? pathX(stand.points, 100 * row) : wipe) / 100, [how, stand, wipe]);
  const span: Span = { first: { take: first, from: from[0] }, second: { take: second, from: from[1] }, seconds };
  const rate = fps(project.frame.rate);
  const plan = project.plans.find((p) => p.id === first.plan);
  const map = beatMapOf(project);
  const bar = plan?.bar ?? 2;
  const choose = (side: 0 | 1) => (
    <div className="min-w-0 space-y-2">
      <SelectField
        label={side ? 'Right of the seam' : 'Left of the seam'}
        value={ids[side]}
        options={takes.map((t) => [t.id, footageName(footageOf(project, t.id))] as const)}
        onChange={(id) => {
          setIds(side ? [ids[0], id] : [id, ids[1]]);
          setFound(null);
          setCuts(null);
        }}
      />
      <NumberField
        label="Begins at its second"
        unit="s"
        value={from[side]}
        min={media[side].from}
        max={Math.max(media[side].from, media[side].to - 0.2)}
        step={1 / rate}
        digits={2}
        onChange={(v) => {
          setFrom(side ? [from[0], v] : [v, from[1]]);
          setFound(null);
        }}
      />
    </div>
  );
  const lineUp = async () => {
    const match = (await run('Listening to both', (tell, signal) => syncMedia(media[0].id, [media[1].id], tell, signal)))?.[0];
    if (!match) return;
    if (!match.ok) return setSaid(match.reason);
    const { offset, spread } = match.match;
    const start = Math.max(media[0].from, media[1].from - offset);
    setFrom([start, start + offset]);
    setFound(null);
    setSaid(
      `The same sound is heard ${Math.abs(offset).toFixed(4)} s ${offset >= 0 ? 'later' : 'earlier'} in the second, to ${(spread * 1000).toFixed(2)} ms.`,
    );
  };
  const seek = async () => {
    const result = await run('Finding the seam', (tell, signal) => seamBetween(project, span, tell, signal));
    if (!result) return;
    setFound({ ...result, stands: standsOf(result.seam, media[0].height) });
    setHow('seam');
  };
  const layOnScore = async () => {
    if (!found) return;
    const beat = Math.max(0, (bar - 1) * map.beatsPerBar);
    const id = await run('Laying both on the score', () => laySeam(project, map, span, found.stands, beat));
    if (id) router.push('/score');
  };
  return (
    <div className="grid gap-4 lg:grid-cols-[1fr_20rem]">
      <div className="min-w-0 space-y-3">
        <ComparePicture first={pictures[0]} second={pictures[1]} how={how} edge={edge} zoom={zoom} onZoom={setZoom}>
          {found && stand && how === 'seam' && (
            <SeamOnPicture
              stand={stand}
              cost={found.seam.cost}
              tall={media[0].height / media[0].width}
              onPull={(points) => setFound({ ...found, stands: found.stands.map((s) => (s === stand ? { ...s, points } : s)) })}
            />
          )}
        </ComparePicture>
        <Slider label="Second of the span" value={at} min={0} max={seconds} step={1 / rate} onChange={setAt} />
        <div className="grid grid-cols-2 gap-2 sm:grid-cols-4">
          <SelectField label="Shown" value={how} options={WAYS} onChange={(v) => setHow(v as Compare)} />
          <NumberField
            label="Enlarged"
            unit="%"
            value={100 * zoom}
            min={100}
            max={100 * MOST_ZOOM}
            step={50}
            onChange={(v) => setZoom(v / 100)}
          />
          <NumberField label="At" unit="s" value={at} min={0} max={seconds} step={1 / rate} digits={2} onChange={setAt} />
          {how === 'wipe' && <NumberField label="Split at" unit="%" value={wipe} min={0} max={100} onChange={setWipe} />}
        </div>
        {found && <SeamReport project={project} found={found} rate={rate} onShow={setAt} />}
        {cuts && <CutList cuts={cuts} first={media[0].name} second={media[1].name} />}
      </div>
      <div className="space-y-3">
        {choose(0)}
        {choose(1)}
        <Button className="w-full" onClick={() => setIds([ids[1], ids[0]])}>
          Swap the sides
        </Button>
        <Button className="w-full" disabled={!media.every((m) => m.hasSound)} onClick={() => void lineUp()}>
          Line them up by sound
        </Button>
        <Button kind="main" className="w-full" disabled={doing !== null} onClick={() => void seek()}>
          Find the seam
        </Button>
        <Button
          className="w-full"
          disabled={doing !== null}
          onClick={() =>
            void run('Comparing poses', (tell, signal) => cutsBetween(project, first, second, tell, signal)).then((c) => c && setCuts(c))
          }
        >
          Find the best cuts
        </Button>
        {doing && <Working text={doing.text} done={doing.done} onStop={stop} />}
        {[problem, a.problem, b.problem].filter(Boolean).map((text) => (
          <Note key={text} level="bad">
            {text}
          </Note>
        ))}
        {said && <Note level="unsure">{said}</Note>}
        {found && (
          <Button kind="main" className="w-full" disabled={doing !== null} onClick={() => void layOnScore()}>
            Use this seam from bar <span className="num">{bar}</span> on
          </Button>
        )}
      </div>
    </div>
  );
}

/** What the seam is like, in sentences; each place in time can be looked at. */
function SeamReport({ project, found, rate, onShow }: { project: Project; found: Found; rate: number; onShow: (at: number) => void }) {
  const { seam, collisions } = found;
  const frames = (c: { from: number; to: number }) => (c.from === c.to ? `frame ${c.from}` : `frames ${c.from} to ${c.to}`);
  return (
    <div className="space-y-2" data-testid="seam-report">
      <Note level={seam.crossings.length ? 'fix' : 'good'}>
        {seam.paths.length === 1 ? 'One seam stands through all' : `The seam stands in ${seam.paths.length} places, one after another,`}{' '}
        {seam.paths.length === 1 ? `${seam.frames} frames` : `over ${seam.frames} frames`}:{' '}
        {seam.paths[0].kind === 'straight' ? 'a straight line' : seam.paths[0].kind === 'polyline' ? 'a line with corners' : 'a free path'}.
        What is seen of it is <span className="num">{seam.step.toFixed(1)}</span> of 255 in the mean; a feather of{' '}
        <span className="num">
          {Math.min(...seam.feather[0]).toFixed(0)} to {Math.max(...seam.feather[0]).toFixed(0)} px
        </span>
        , as there is room, hides it.
        {seam.shadowFrames > 0 && ` A shadow lies on it in ${seam.shadowFrames} frames.`}
      </Note>
      {seam.crossings.map((c) => (
        <Note key={c.from} level="fix">
          No clean seam in {frames(c)} ({c.to - c.from + 1}): {c.reason}.{' '}
          <button type="button" className="underline" onClick={() => onShow((c.from + c.to) / 2 / rate)}>
            Show it
          </button>
        </Note>
      ))}
      {collisions.map((c) => (
        <Note key={`c${c.from}`} level="fix">
          The figures overlap in {frames(c)}, by {(100 * c.share * ((project.frame.width * project.frame.height) / 1e4)).toFixed(0)} hundred
          pixels at most.{' '}
          <button type="button" className="underline" onClick={() => onShow(c.worst / rate)}>
            Show it
          </button>
        </Note>
      ))}
    </div>
  );
}

function CutList({ cuts, first, second }: { cuts: readonly (Cut & { outAt: number; intoAt: number })[]; first: string; second: string }) {
  if (cuts.length === 0) return <Note level="unsure">Nobody was seen in one of the takes, so there is nothing to compare.</Note>;
  return (
    <table className="w-full text-sm" data-testid="cuts">
      <caption className="mb-1 text-left font-semibold">Best cuts, best first</caption>
      <thead className="text-left text-faint">
        <tr>
          <th className="font-normal">Out of {first}</th>
          <th className="font-normal">Into {second}</th>
          <th className="font-normal">Outline alike</th>
          <th className="font-normal">Apart</th>
          <th className="font-normal">Movement alike</th>
        </tr>
      </thead>
      <tbody className="num">
        {cuts.map((c) => (
          <tr key={`${c.out} ${c.into}`} className="border-t border-rule">
            <td className="py-1">
              {c.outAt.toFixed(2)} s, frame {c.out}
            </td>
            <td>
              {c.intoAt.toFixed(2)} s, frame {c.into}
            </td>
            <td>{Math.round(100 * (1 - c.pose))} %</td>
            <td>{c.apart.toFixed(2)} figures</td>
            <td>{Math.round(100 * (1 - Math.min(1, c.motion)))} %</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
