'use client';
import dynamic from 'next/dynamic';
import { useMemo, useState } from 'react';
import { footageName, footageOf, MOST_OVERSCAN, type Project, type Take } from '@/core/document';
import { correctionFrom } from '@/core/edit';
import { overscanFor } from '@/core/evaluate';
import { lightFindings, lockVerdict, moveFindings, qualityFindings } from '@/core/measure';
import { say } from '@/core/words';
import { stopMeasuring } from '@/data/measure-queue';
import { correctTake, marginFor } from '@/data/media';
import { referenceFor } from '@/data/set-up';
import { edit, useProject } from '@/data/store';
import type { TakeMeasurement } from '@/media/measuring';
import { Button, Note, Tape } from '@/ui/controls';
import { TickField } from '@/ui/value-field';
import { MeasuringNow, useMeasured, useThumbnail } from '@/views/shared';
import { BeforeAfter } from './before-after';
import { LockChart } from './lock-chart';

const ByPoints = dynamic(() => import('./by-points').then((m) => m.ByPoints), { ssr: false });
const TakeParts = dynamic(() => import('./cut-take').then((m) => m.TakeParts), { ssr: false });

/** Every take against the one that its set-up is laid on. */
const againstReference = (project: Project) => project.takes.map((take) => ({ take, against: referenceFor(project, take) }));

function Strip({ take, project }: { take: Take; project: Project }) {
  const media = footageOf(project, take.id);
  // Upright pictures are narrow: more of them keep the strip low.
  const shares = media.width < media.height ? [0.04, 0.16, 0.28, 0.4, 0.52, 0.64, 0.76, 0.88] : [0.08, 0.3, 0.42, 0.54, 0.8];
  const times = shares.map((k) => media.from + k * (media.to - media.from));
  return (
    <div className="flex gap-px overflow-hidden bg-well">
      {times.map((t) => (
        <StripPicture key={t} mediaId={media.id} width={media.width} time={t} aspect={media.width / media.height} />
      ))}
    </div>
  );
}

function StripPicture({ mediaId, width, time, aspect }: { mediaId: string; width: number; time: number; aspect: number }) {
  const src = useThumbnail(mediaId, width, time);
  return (
    <div className="min-w-0 flex-1" style={{ aspectRatio: aspect }}>
      {src && <img src={src} alt="" className="h-full w-full object-cover" />}
    </div>
  );
}

/** What a correction costs before it is used: how far the shot is enlarged, and what that does to the picture. */
function costOf(percent: number): string {
  if (percent < 100.05) return '';
  const margin = say`It costs a margin: shots that use it are shown at ${Math.min(percent, 999).toFixed(percent < 110 ? 2 : 0)} %.`;
  if (percent > MOST_OVERSCAN)
    return say`${margin} That is over the ${MOST_OVERSCAN} % a shot may be enlarged by: an edge of it will show. Film it again from the same place if you can.`;
  return percent < 112 ? margin : say`${margin} The picture is softer by that.`;
}

function TakeCard({
  take,
  project,
  measured,
  reference,
}: {
  take: Take;
  project: Project;
  measured: TakeMeasurement | undefined;
  reference: Take;
}) {
  const media = footageOf(project, take.id);
  const [cutting, setCutting] = useState(false);
  const [comparing, setComparing] = useState(false);
  const [pointing, setPointing] = useState(false);
  const isReference = reference.id === take.id;
  const own = measured?.own ? lockVerdict(measured.own, say`its own first second`) : null;
  const against = measured?.against ? lockVerdict(measured.against, footageName(footageOf(project, reference.id))) : null;
  const shown = measured?.against ?? measured?.own;
  const findings = [
    ...(measured?.own ? moveFindings(measured.own, media.width, media.height) : []),
    ...(shown ? lightFindings(shown) : []),
    ...(measured?.quality ? qualityFindings(measured.quality, media.fps) : []),
  ];
  const toFix = against?.level === 'fix' ? measured?.against : null;
  // A long take has thousands of moves: they are gone through once, not with every tick of what is measured after it.
  const asked = useMemo(() => (toFix ? correctionFrom(toFix, reference.id) : null), [toFix, reference.id]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: of the project only the frame counts
  const percent = useMemo(() => (asked ? overscanFor(project, media, asked) : 100), [asked, project.frame, media.id]);
  const { correction } = take;
  const other = useMemo(
    () => asked && correction && JSON.stringify({ ...correction, enabled: true }) !== JSON.stringify(asked),
    [asked, correction],
  );
  const sameSize = media.width === footageOf(project, reference.id).width && media.height === footageOf(project, reference.id).height;
  return (
    <article className="border-b border-rule py-5" data-testid={`take-${take.slot ?? 'none'}`}>
      <div className="mb-2 flex flex-wrap items-center justify-between gap-2">
        <Tape index={take.tape}>{footageName(media)}</Tape>
        <span className="flex items-center gap-2 text-sm text-faint">
          {isReference ? say`the others are measured against this one` : ''}
          <Button kind="quiet" className="shrink-0" aria-expanded={cutting} onClick={() => setCutting(!cutting)}>
            {say`In, out and parts`}
          </Button>
        </span>
      </div>
      <Strip take={take} project={project} />
      {cutting && <TakeParts project={project} take={take} onDone={() => setCutting(false)} />}
      <div className="mt-3 grid gap-4 lg:grid-cols-[1fr_26rem]">
        <div className="space-y-2">
          {measured?.reason && <Note level="unsure">{measured.reason}</Note>}
          {own && <Note level={own.level}>{own.text}</Note>}
          {against && <Note level={take.correction?.enabled ? 'good' : against.level}>{against.text}</Note>}
          {findings.map((text) => (
            <Note key={text} level="unsure">
              {text}
            </Note>
          ))}
          {asked && measured && (!take.correction || other) && (
            <div className="flex flex-wrap items-center gap-3">
              <Button kind="main" onClick={() => correctTake(take.id, reference.id, measured)}>
                {take.correction ? say`Correct it anew by these figures` : say`Correct this take`}
              </Button>
              <span className="text-sm text-faint">
                {asked.perspective
                  ? say`Shows it as if filmed from where the reference was, in its light; the file stays as it is.`
                  : say`Moves it back by parts of a pixel and matches its light; the file stays as it is.`}{' '}
                {costOf(percent)}
              </span>
            </div>
          )}
          {!isReference && measured && sameSize && (against?.level === 'unsure' || take.byHand) && (
            <Button aria-expanded={pointing} onClick={() => setPointing(!pointing)}>
              {take.byHand ? say`Points set by hand` : say`Set points by hand`}
            </Button>
          )}
          {pointing && <ByPoints project={project} take={take} reference={reference} onDone={() => setPointing(false)} />}
          {take.correction && (
            <TickField
              value={take.correction.enabled}
              onChange={(enabled) =>
                edit(enabled ? say`Correct the take` : say`Leave the take as filmed`, (draft) => {
                  const t = draft.takes.find((x) => x.id === take.id);
                  if (t?.correction) t.correction.enabled = enabled;
                })
              }
              label={
                <span>
                  {say`Corrected.`}{' '}
                  <span className="num text-faint">{say`It costs a margin: the shot is shown at ${marginFor(project, [take.id]).toFixed(2)} %.`}</span>
                </span>
              }
            />
          )}
          {take.correction && (
            <>
              <Button aria-expanded={comparing} onClick={() => setComparing(!comparing)}>
                {say`Before and after`}
              </Button>
              {comparing && <BeforeAfter project={project} take={take} reference={reference} />}
            </>
          )}
        </div>
        {shown && <LockChart lock={shown} label={say`Shift and light of ${media.name} over time`} />}
      </div>
    </article>
  );
}

/** Every take by itself and against the one its set-up is laid on. */
export function EachTake() {
  const project = useProject((s) => s.project);
  const { measured, keys, busy, again, problem } = useMeasured(againstReference);
  if (!project) return null;
  const missing = project.takes.some((t) => !measured.has(t.id));
  return (
    <div className="max-w-5xl">
      <MeasuringNow keys={keys} onStop={stopMeasuring} />
      {!busy && missing && <Button onClick={again}>{say`Measure the rest`}</Button>}
      {problem && <Note level="bad">{problem}</Note>}
      {project.takes.map((take) => (
        <TakeCard key={take.id} take={take} project={project} measured={measured.get(take.id)} reference={referenceFor(project, take)} />
      ))}
    </div>
  );
}
