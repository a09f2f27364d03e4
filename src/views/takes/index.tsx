'use client';
import dynamic from 'next/dynamic';
import Link from 'next/link';
import { useState } from 'react';
import { say } from '@/core/words';
import { useProject } from '@/data/store';
import { Empty, Heading } from '@/ui/controls';
import { PartTabs } from '@/ui/part-tabs';
import { ChoiceSheet, MissingFiles } from '@/views/shared';
import { EachTake } from './each-take';
import { MEASURES } from './measures';

const Waiting = () => <p className="p-4 text-faint">{say`One moment…`}</p>;
const Together = dynamic(() => import('./compare-takes').then((m) => m.Together), { ssr: false, loading: Waiting });
const Contacts = dynamic(() => import('./contacts').then((m) => m.Contacts), { ssr: false, loading: Waiting });
const TheSet = dynamic(() => import('./the-set').then((m) => m.TheSet), { ssr: false, loading: Waiting });
const Points = dynamic(() => import('./points').then((m) => m.Points), { ssr: false, loading: Waiting });
const CutOut = dynamic(() => import('./cut-out').then((m) => m.CutOut), { ssr: false, loading: Waiting });

const PARTS = [
  ['each', say`Each take`],
  ['together', say`Side by side`],
  ['contact', say`Contacts`],
  ['set', say`The empty set`],
  ['cut', say`Cut-out`],
  ['points', say`Points`],
] as const;

export function TakesView() {
  const project = useProject((s) => s.project);
  const [part, setPart] = useState<string>(PARTS[0][0]);
  if (!project) return null;
  if (project.takes.length === 0) {
    return (
      <Empty text={say`Nothing to measure yet. Take in the clean plate and the takes; each is then measured frame by frame.`}>
        <Link href="/shoot" className="inline-flex min-h-11 items-center underline">
          {say`To Shoot`}
        </Link>
      </Empty>
    );
  }
  return (
    <div className="mx-auto max-w-6xl p-4 sm:p-6">
      <div className="flex flex-wrap items-start justify-between gap-2">
        <Heading title={say`Takes`} question={say`What have I got, and does it fit together?`} />
        <ChoiceSheet
          title={say`What is measured`}
          button={say`What is measured…`}
          asks={say`Find a measure by what it tells`}
          choices={MEASURES}
          pictures="measures"
          none={say`Nothing of that is measured.`}
          onChoose={(kind) => setPart(MEASURES.find((m) => m.kind === kind)?.part ?? part)}
        />
      </div>
      <MissingFiles />
      <PartTabs label={say`Parts of the takes`} parts={PARTS} value={part} onValue={setPart}>
        {(key) =>
          key === 'together' ? (
            <Together project={project} />
          ) : key === 'contact' ? (
            <Contacts project={project} />
          ) : key === 'set' ? (
            <TheSet project={project} />
          ) : key === 'cut' ? (
            <CutOut project={project} />
          ) : key === 'points' ? (
            <Points project={project} />
          ) : (
            <EachTake />
          )
        }
      </PartTabs>
    </div>
  );
}
