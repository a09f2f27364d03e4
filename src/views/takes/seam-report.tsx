'use client';
import type { Project } from '@/core/document';
import type { SeamKeyframe } from '@/core/layer';
import type { Collision, Cut } from '@/core/measure';
import { say } from '@/core/words';
import type { SeamResult } from '@/media/set-up';
import { Note } from '@/ui/controls';

export interface Found {
  seam: SeamResult;
  collisions: Collision[];
  keyframes: SeamKeyframe[];
}

/** What the seam is like, in sentences; each place in time can be looked at. */
export function SeamReport({
  project,
  found,
  rate,
  onShow,
}: {
  project: Project;
  found: Found;
  rate: number;
  onShow: (at: number) => void;
}) {
  const { seam, collisions } = found;
  const frames = (c: { from: number; to: number }) => (c.from === c.to ? say`frame ${c.from}` : say`frames ${c.from} to ${c.to}`);
  return (
    <div className="space-y-2" data-testid="seam-report">
      <Note level={seam.crossings.length ? 'fix' : 'good'}>
        {seam.paths.length === 1
          ? say`One seam stands through all`
          : say`The seam stands in ${seam.paths.length} places, one after another,`}{' '}
        {seam.paths.length === 1 ? say`${seam.frames} frames` : say`over ${seam.frames} frames`}:{' '}
        {seam.paths[0].kind === 'straight'
          ? say`a straight line`
          : seam.paths[0].kind === 'polyline'
            ? say`a line with corners`
            : say`a free path`}
        {say`. What is seen of it is `}
        <span className="num">{seam.step.toFixed(1)}</span>
        {say` of 255 in the mean; a feather of`}{' '}
        <span className="num">{say`${Math.min(...seam.feather[0]).toFixed(0)} to ${Math.max(...seam.feather[0]).toFixed(0)} px`}</span>
        {say`, as there is room, hides it.`}
        {seam.shadowFrames > 0 && say` A shadow lies on it in ${seam.shadowFrames} frames.`}
      </Note>
      {seam.crossings.length > 0 && (
        <Note level="unsure">
          {seam.across
            ? say`Where one stands beside the other, a seam from top to bottom may be clean.`
            : say`Where one is above the other, a seam from left to right may be clean.`}
        </Note>
      )}
      {seam.crossings.map((c) => (
        <Note key={c.from} level="fix">
          {say`No clean seam in `}
          {frames(c)} ({c.to - c.from + 1}): {c.reason}.{' '}
          <button type="button" className="underline" onClick={() => onShow((c.from + c.to) / 2 / rate)}>
            {say`Show it`}
          </button>
        </Note>
      ))}
      {collisions.map((c) => (
        <Note key={`c${c.from}`} level="fix">
          {say`The figures overlap in `}
          {frames(c)}
          {say`, by `}
          {(100 * c.share * ((project.frame.width * project.frame.height) / 1e4)).toFixed(0)}
          {say` hundred pixels at most.`}{' '}
          <button type="button" className="underline" onClick={() => onShow(c.worst / rate)}>
            {say`Show it`}
          </button>
        </Note>
      ))}
    </div>
  );
}

export function CutList({
  cuts,
  first,
  second,
}: {
  cuts: readonly (Cut & { outAt: number; intoAt: number })[];
  first: string;
  second: string;
}) {
  if (cuts.length === 0) return <Note level="unsure">{say`Nobody was seen in one of the takes, so there is nothing to compare.`}</Note>;
  return (
    <table className="w-full text-sm" data-testid="cuts">
      <caption className="mb-1 text-left font-semibold">{say`Best cuts, best first`}</caption>
      <thead className="text-left text-faint">
        <tr>
          <th className="font-normal">{say`Out of ${first}`}</th>
          <th className="font-normal">{say`Into ${second}`}</th>
          <th className="font-normal">{say`Outline alike`}</th>
          <th className="font-normal">{say`Apart`}</th>
          <th className="font-normal">{say`Movement alike`}</th>
        </tr>
      </thead>
      <tbody className="num">
        {cuts.map((c) => (
          <tr key={`${c.out} ${c.into}`} className="border-t border-rule">
            <td className="py-1">{say`${c.outAt.toFixed(2)} s, frame ${c.out}`}</td>
            <td>{say`${c.intoAt.toFixed(2)} s, frame ${c.into}`}</td>
            <td>{Math.round(100 * (1 - c.pose))} %</td>
            <td>{say`${c.apart.toFixed(2)} figures`}</td>
            <td>{Math.round(100 * (1 - Math.min(1, c.motion)))} %</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
