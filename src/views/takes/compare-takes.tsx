'use client';
import { useRouter } from 'next/navigation';
import { useMemo, useState } from 'react';
import { footageName, footageOf, type Project, type Take } from '@/core/document';
import { beatMapOf } from '@/core/evaluate';
import type { SeamKeyframe } from '@/core/layer';
import type { Cut } from '@/core/measure';
import { pathX } from '@/core/picture';
import { barToBeat, fps } from '@/core/time';
import { say } from '@/core/words';
import { lineUpByBeat, lineUpByMove, lineUpBySound } from '@/data/line-up';
import { isPlate } from '@/data/media';
import { cutsBetween, laySeam, type Span, seamBetween, seamKeyframesOf, setUpOf } from '@/data/set-up';
import { Button, Note, NumberField, Working } from '@/ui/controls';
import { Slider } from '@/ui/slider';
import { SelectField } from '@/ui/value-field';
import { useJob } from '@/views/shared';
import { type Compare, ComparePicture, type Edge, MOST_ZOOM } from './compare-picture';
import { SeamOnPicture } from './seam-on-picture';
import { CutList, type Found, SeamReport } from './seam-report';
import { useAligned, useAlignedPicture } from './use-aligned';

const WAYS: readonly (readonly [Compare, string])[] = [
  ['seam', say`along the seam`],
  ['wipe', say`split where you point`],
  ['blink', say`in turns`],
  ['difference', say`their difference, eightfold`],
  ['first', say`the first alone`],
  ['second', say`the second alone`],
];

/** The keyframe that holds at a second of the span. */
const keyframeAt = (keyframes: SeamKeyframe[], at: number) => keyframes.findLast((s) => s.from <= at + 1e-6) ?? keyframes[0];

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
        <Note level="unsure">{say`Two takes of one planned shot are needed, both with somebody in them. Take the second in under Shoot.`}</Note>
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
        label={say`Planned shot`}
        value={value}
        options={starts.map((t) => [t.plan ?? '', project.plans.find((p) => p.id === t.plan)?.name ?? say`takes without a plan`] as const)}
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
  const [across, setAcross] = useState(false);
  const [first, second] = ids.map((id) => takes.find((t) => t.id === id) ?? takes[0]);
  const media = [first, second].map((t) => footageOf(project, t.id));
  const from = media.map((m, i) => Math.min(Math.max(wantedFrom[i], m.from), m.to - 0.2));
  const seconds = Math.max(0.2, Math.min(...media.map((m, i) => m.to - from[i])));
  const [a, b] = [useAligned(project, first), useAligned(project, second)];
  const pictures = [useAlignedPicture(a.lies, from[0] + at), useAlignedPicture(b.lies, from[1] + at)] as const;
  const keyframe = found && keyframeAt(found.keyframes, at);
  const edge = useMemo<Edge>(() => {
    if (how !== 'seam' || !keyframe) return { across, at: () => wipe / 100 };
    const stood = keyframe.across ? keyframe.points.map(({ x, y }) => ({ x: y, y: x })) : keyframe.points;
    return { across: keyframe.across === true, at: (along) => pathX(stood, 100 * along) / 100 };
  }, [how, keyframe, wipe, across]);
  const span: Span = { first: { take: first, from: from[0] }, second: { take: second, from: from[1] }, seconds, across };
  const rate = fps(project.frame.rate);
  const plan = project.plans.find((p) => p.id === first.plan);
  const map = beatMapOf(project);
  const bar = plan?.bar ?? 2;
  const choose = (side: 0 | 1) => (
    <div className="min-w-0 space-y-2">
      <SelectField
        label={say`${across ? [say`Above`, say`Below`][side] : [say`Left of`, say`Right of`][side]} the seam`}
        value={ids[side]}
        options={takes.map((t) => [t.id, footageName(footageOf(project, t.id))] as const)}
        onChange={(id) => {
          setIds(side ? [ids[0], id] : [id, ids[1]]);
          setFound(null);
          setCuts(null);
        }}
      />
      <NumberField
        label={say`Begins at its second`}
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
  const lineUp = async (by: 'sound' | 'beat' | 'move') => {
    const { song } = project;
    const found = await run(by === 'move' ? say`Comparing the cameras’ moves` : say`Listening to both`, (tell, signal) => {
      if (by === 'move') return lineUpByMove(project, first, second, tell, signal);
      return by === 'beat' && song
        ? lineUpByBeat(song.mediaId, media[0], media[1], tell, signal)
        : lineUpBySound(media[0], media[1], tell, signal);
    });
    if (!found) return;
    setSaid(found.said);
    if (!found.ok) return;
    setFrom(found.from);
    setFound(null);
  };
  const seek = async () => {
    const result = await run(say`Finding the seam`, (tell, signal) => seamBetween(project, span, tell, signal));
    if (!result) return;
    setFound({ ...result, keyframes: seamKeyframesOf(result.seam, media[0].height) });
    setHow('seam');
  };
  const layOnScore = async () => {
    if (!found) return;
    const beat = Math.max(0, barToBeat(map, bar));
    const id = await run(say`Laying both on the score`, () => laySeam(project, span, found.keyframes, beat));
    if (id) router.push('/score');
  };
  return (
    <div className="grid gap-4 lg:grid-cols-[1fr_20rem]">
      <div className="min-w-0 space-y-3">
        <ComparePicture first={pictures[0]} second={pictures[1]} how={how} edge={edge} zoom={zoom} onZoom={setZoom}>
          {found && keyframe && how === 'seam' && (
            <SeamOnPicture
              keyframe={keyframe}
              cost={found.seam.cost}
              tall={media[0].height / media[0].width}
              onPull={(points) => setFound({ ...found, keyframes: found.keyframes.map((s) => (s === keyframe ? { ...s, points } : s)) })}
            />
          )}
        </ComparePicture>
        <Slider label={say`Second of the span`} value={at} min={0} max={seconds} step={1 / rate} onChange={setAt} />
        <div className="grid grid-cols-2 gap-2 sm:grid-cols-4">
          <SelectField label={say`Shown`} value={how} options={WAYS} onChange={(v) => setHow(v as Compare)} />
          <NumberField
            label={say`Enlarged`}
            unit="%"
            value={100 * zoom}
            min={100}
            max={100 * MOST_ZOOM}
            step={50}
            onChange={(v) => setZoom(v / 100)}
          />
          <NumberField label={say`At`} unit="s" value={at} min={0} max={seconds} step={1 / rate} digits={2} onChange={setAt} />
          {how === 'wipe' && <NumberField label={say`Split at`} unit="%" value={wipe} min={0} max={100} onChange={setWipe} />}
        </div>
        {found && <SeamReport project={project} found={found} rate={rate} onShow={setAt} />}
        {cuts && <CutList cuts={cuts} first={media[0].name} second={media[1].name} />}
      </div>
      <div className="space-y-3">
        {choose(0)}
        {choose(1)}
        <SelectField
          label={say`The seam runs`}
          value={across ? 'across' : 'down'}
          options={[
            ['down', say`from top to bottom`],
            ['across', say`from left to right`],
          ]}
          onChange={(v) => {
            setAcross(v === 'across');
            setFound(null);
          }}
        />
        <Button className="w-full" onClick={() => setIds([ids[1], ids[0]])}>
          {say`Swap the sides`}
        </Button>
        <Button className="w-full" disabled={!media.every((m) => m.hasSound)} onClick={() => void lineUp('sound')}>
          {say`Line them up by sound`}
        </Button>
        {project.song && (
          <Button className="w-full" disabled={!media.every((m) => m.hasSound)} onClick={() => void lineUp('beat')}>
            {say`Line them up by the beat`}
          </Button>
        )}
        {[a, b].some(({ lies }) => lies?.correction?.moments) && (
          <Button className="w-full" disabled={doing !== null} onClick={() => void lineUp('move')}>
            {say`Line them up by the camera’s move`}
          </Button>
        )}
        <Button kind="main" className="w-full" disabled={doing !== null} onClick={() => void seek()}>
          {say`Find the seam`}
        </Button>
        <Button
          className="w-full"
          disabled={doing !== null}
          onClick={() =>
            void run(say`Comparing poses`, (tell, signal) => cutsBetween(project, first, second, tell, signal)).then((c) => c && setCuts(c))
          }
        >
          {say`Find the best cuts`}
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
            {say`Use this seam from bar `}
            <span className="num">{bar}</span>
            {say` on`}
          </Button>
        )}
      </div>
    </div>
  );
}
