'use client';
import dynamic from 'next/dynamic';
import { say } from '@/core/words';
import { Heading } from '@/ui/controls';
import { PartTabs } from '@/ui/part-tabs';
import { MissingFiles } from '@/views/shared';
import { LogStage } from './log-stage';
import { Recovery } from './recovery';

const Waiting = () => <p className="p-4 text-faint">{say`One moment…`}</p>;
const FilmStage = dynamic(() => import('./film-stage').then((m) => m.FilmStage), { ssr: false, loading: Waiting });
const StrikeStage = dynamic(() => import('./strike-stage').then((m) => m.StrikeStage), { ssr: false, loading: Waiting });

const PARTS = [
  ['log', say`Log`],
  ['film', say`Film`],
  ['strike', say`May I strike?`],
] as const;

export function ShootView() {
  return (
    <div className="mx-auto max-w-6xl p-4 sm:p-6">
      <Heading title={say`Shoot`} question={say`Is this take usable before I strike the set?`} />
      <Recovery />
      <MissingFiles />
      <PartTabs label={say`Parts of the shoot`} parts={PARTS}>
        {(part) => (part === 'film' ? <FilmStage /> : part === 'strike' ? <StrikeStage /> : <LogStage />)}
      </PartTabs>
    </div>
  );
}
