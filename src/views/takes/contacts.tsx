'use client';
import Link from 'next/link';
import { useEffect, useRef, useState } from 'react';
import { footageName, footageOf, type Project, type Take } from '@/core/document';
import { plannedSlots } from '@/core/edit';
import { say } from '@/core/words';
import { type Contact, furthestIn, type Ranked, rankContacts } from '@/data/contacts';
import { layMeeting } from '@/data/lay-meeting';
import { isPlate } from '@/data/media';
import { alignedPicture } from '@/data/pictures';
import { aligned } from '@/data/set-up';
import { Button, Note, NumberField, Tape, Working } from '@/ui/controls';
import { SelectField } from '@/ui/value-field';
import { useJob } from '@/views/shared';

/** Slots of a planned shot that hold takes with somebody in them. */
function filledSlots(project: Project, planId: string): { id: string; name: string }[] {
  const plan = project.plans.find((p) => p.id === planId);
  if (!plan) return [];
  return plannedSlots(project, plan).filter((s) => s.plate === null && project.takes.some((t) => t.plan === planId && t.slot === s.id));
}

/** For a slap, a hand-over or a kiss: every take of one slot against every take of another at the instant of contact. */
export function Contacts({ project }: { project: Project }) {
  const plans = project.plans.filter((p) => filledSlots(project, p.id).length > 1);
  const [planId, setPlan] = useState(plans.find((p) => p.recipe === 'clones')?.id ?? plans[0]?.id ?? '');
  const slots = filledSlots(project, planId);
  if (slots.length < 2)
    return (
      <Note level="unsure">
        {say`Two slots of one planned shot must each hold a take with somebody in it: who reaches from the left, and who is met at the right.`}
      </Note>
    );
  return (
    <div className="space-y-4">
      <div className="max-w-xs">
        <SelectField label={say`Planned shot`} value={planId} options={plans.map((p) => [p.id, p.name] as const)} onChange={setPlan} />
      </div>
      <Meeting key={planId} project={project} planId={planId} slots={slots} />
    </div>
  );
}

function Meeting({ project, planId, slots }: { project: Project; planId: string; slots: readonly { id: string; name: string }[] }) {
  const { doing, problem, run, stop } = useJob();
  const [chosen, setChosen] = useState<[string, string]>([slots[0].id, slots[1].id]);
  const [instants, setInstants] = useState<ReadonlyMap<string, number>>(new Map());
  const [fits, setFits] = useState<Ranked | null>(null);
  const [laid, setLaid] = useState<string | null>(null);
  const takesOf = (slot: string) => project.takes.filter((t) => t.plan === planId && t.slot === slot && !isPlate(project, t));
  const sides = chosen.map(takesOf);
  const instant = (take: Take) => {
    const { from, to } = footageOf(project, take.id);
    return instants.get(take.id) ?? (from + to) / 2;
  };
  const set = (take: Take, at: number) => {
    setInstants(new Map(instants).set(take.id, at));
    setFits(null);
  };
  const find = async () => {
    const found = await run(say`Looking for the furthest reach`, async (tell, signal) => {
      const all = sides.flatMap((takes, side) => takes.map((take) => ({ take, side: side ? ('left' as const) : ('right' as const) })));
      const out = new Map<string, number>();
      for (const [i, { take, side }] of all.entries()) {
        const at = await furthestIn(project, take, side, (p) => tell((i + p) / all.length), signal);
        if (at !== null) out.set(take.id, at);
      }
      return out;
    });
    if (!found) return;
    setInstants(found);
    setFits(null);
  };
  const rank = async () => {
    const contacts = sides.map((takes) => takes.map((take): Contact => ({ take, at: instant(take) })));
    const ranked = await run(say`Trying every pair`, (tell, signal) => rankContacts(project, contacts[0], contacts[1], tell, signal));
    if (ranked) setFits(ranked);
  };
  const lay = async (a: Take, b: Take) => {
    setLaid(null);
    const said = await run(say`Laying the pair`, (tell) => layMeeting({ take: a, at: instant(a) }, { take: b, at: instant(b) }, tell));
    if (said !== null) setLaid(said);
  };
  return (
    <>
      <div className="grid gap-4 sm:grid-cols-2">
        {sides.map((takes, side) => (
          <section key={chosen[side]} className="space-y-2">
            <SelectField
              label={side ? say`Is met at the right` : say`Reaches from the left`}
              value={chosen[side]}
              options={slots.map((s) => [s.id, s.name] as const)}
              onChange={(id) => {
                setChosen(side ? [chosen[0], id] : [id, chosen[1]]);
                setFits(null);
              }}
            />
            {takes.map((take) => {
              const footage = footageOf(project, take.id);
              return (
                <div key={take.id} className="flex flex-wrap items-end justify-between gap-2 border-t border-rule pt-2">
                  <Tape index={take.tape}>{footageName(footage)}</Tape>
                  <div className="w-36">
                    <NumberField
                      label={say`Touches at`}
                      unit="s"
                      value={instant(take)}
                      min={footage.from}
                      max={footage.to}
                      step={1 / (footage.fps || 25)}
                      digits={2}
                      onChange={(at) => set(take, at)}
                    />
                  </div>
                </div>
              );
            })}
          </section>
        ))}
      </div>
      <div className="flex flex-wrap gap-2">
        <Button disabled={doing !== null} onClick={() => void find()}>
          {say`Take the furthest reach`}
        </Button>
        <Button kind="main" disabled={doing !== null || chosen[0] === chosen[1]} onClick={() => void rank()}>
          {say`Rank the pairs`}
        </Button>
      </div>
      {chosen[0] === chosen[1] && <Note level="unsure">{say`Choose two different slots.`}</Note>}
      {doing && <Working text={doing.text} done={doing.done} onStop={stop} />}
      {problem && <Note level="bad">{problem}</Note>}
      {fits && <Ranking project={project} ranked={fits} instant={instant} busy={doing !== null} onLay={(a, b) => void lay(a, b)} />}
      {laid !== null && (
        <p role="status">
          {say`They touch on a beat of the playhead, on the score. `}
          {laid}{' '}
          <Link href="/score" prefetch={false} className="underline">
            {say`See it there`}
          </Link>
        </p>
      )}
    </>
  );
}

const signed = (v: number, digits = 0) => `${v < 0 ? '−' : '+'}${Math.abs(v).toFixed(digits)}`;

interface RankingProps {
  project: Project;
  ranked: Ranked;
  instant: (take: Take) => number;
  busy: boolean;
  onLay: (left: Take, right: Take) => void;
}

function Ranking({ project, ranked, instant, busy, onLay }: RankingProps) {
  const { fits, across } = ranked;
  if (fits.length === 0) return <Note level="unsure">{say`Nobody is seen at these instants, so nothing meets. Mark others.`}</Note>;
  const takeOf = (id: string) => project.takes.find((t) => t.id === id);
  return (
    <ol className="space-y-4" data-testid="contacts">
      {fits.map((fit, i) => {
        const [a, b] = [takeOf(fit.a.take), takeOf(fit.b.take)];
        if (!a || !b) return null;
        return (
          <li key={`${a.id} ${b.id}`} className="grid gap-3 border-t border-rule pt-3 sm:grid-cols-[16rem_1fr]">
            <MetPicture project={project} a={a} b={b} at={[instant(a), instant(b)]} share={(fit.a.x + fit.b.x) / 2 / across} />
            <div className="space-y-1">
              <p>
                <span className="num mr-2 font-semibold">{i + 1}</span>
                <Tape index={a.tape}>{footageName(footageOf(project, a.id))}</Tape>
                {say` meets`} <Tape index={b.tape}>{footageName(footageOf(project, b.id))}</Tape>
              </p>
              <Note level={Math.abs(fit.gap) < 12 ? 'good' : 'fix'}>
                {fit.gap >= 0 ? say`A gap of ` : say`An overlap of `}
                <span className="num">{say`${Math.abs(fit.gap).toFixed(0)} px`}</span>
                {say` at the contact, the right one`} <span className="num">{say`${Math.abs(fit.height).toFixed(0)} px`}</span>{' '}
                {fit.height < 0 ? say`higher` : say`lower`}.
              </Note>
              <p className="num text-sm text-faint">
                {say`closing at ${fit.closing.toFixed(1)} px a frame, ${signed(fit.direction)}° from level; light ${signed(fit.light, 2)} EV; ${fit.seam === null ? say`no seam stands between them` : say`the seam shows ${fit.seam.toFixed(1)} of 255`}`}
              </p>
              <Button disabled={busy} onClick={() => onLay(a, b)}>
                {say`Let them meet on the score`}
              </Button>
            </div>
          </li>
        );
      })}
    </ol>
  );
}

/** The two as they would stand side by side, split where they meet (`share` of the width). */
function MetPicture({ project, a, b, at, share }: { project: Project; a: Take; b: Take; at: [number, number]; share: number }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [missing, setMissing] = useState('');
  // biome-ignore lint/correctness/useExhaustiveDependencies: drawn anew when other takes or instants are asked for
  useEffect(() => {
    let wanted = true;
    void (async () => {
      const pictures = [];
      for (const [i, take] of [a, b].entries()) {
        const lies = await aligned(project, take, () => undefined);
        const made = await alignedPicture(lies, at[i]);
        pictures.push(new ImageData(made.rgba, made.width, made.height));
      }
      const pen = canvas.current?.getContext('2d');
      if (!wanted || !pen) return;
      const [p, q] = pictures;
      pen.canvas.width = p.width;
      pen.canvas.height = p.height;
      pen.putImageData(p, 0, 0);
      const split = Math.round(share * p.width);
      pen.putImageData(q, 0, 0, split, 0, q.width - split, q.height);
    })().catch((error: Error) => wanted && setMissing(error.message));
    return () => {
      wanted = false;
    };
  }, [a.id, b.id, at[0], at[1]]);
  if (missing) return <p className="text-sm text-faint">{missing}</p>;
  return <canvas ref={canvas} className="w-full bg-well" role="img" aria-label={say`The two at the contact, side by side`} />;
}
