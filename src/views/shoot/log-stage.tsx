'use client';
import { FolderInput } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import type { Take } from '@/core/document';
import { plannedSlots } from '@/core/edit';
import { takeLogCsv } from '@/core/exchange';
import { settingsVarying } from '@/core/log';
import { say } from '@/core/words';
import { takeShared } from '@/data/installed';
import { useProject } from '@/data/store';
import { download } from '@/data/stored';
import { readTakeLog } from '@/data/take-log';
import { bring, stopTakingIn, useTakingIn } from '@/data/taking-in';
import { ACCEPTED } from '@/ui/accepted';
import { Button, Note, Tape, Working } from '@/ui/controls';
import { SelectField } from '@/ui/value-field';
import { FirstFilm } from './first-film';
import { TakeRow } from './take-row';

/** Orders of the log; takes that are equal stay as they were taken in. */
const SORTS = {
  taken: () => 0,
  best: (a: Take, b: Take) => b.rating - a.rating,
  slot: (a: Take, b: Take) => `${a.plan} ${a.slot}`.localeCompare(`${b.plan} ${b.slot}`),
  newest: (a: Take, b: Take) => (b.filmedAt ?? 0) - (a.filmedAt ?? 0),
  knocked: (a: Take, b: Take) => (b.live?.bumps.length ?? 0) - (a.live?.bumps.length ?? 0),
};
const ORDERS = [
  ['taken', say`as taken in`],
  ['best', say`best first`],
  ['slot', say`by slot`],
  ['newest', say`newest first`],
  ['knocked', say`knocked first`],
] as const;

/** Takes as they are logged: files taken in, slots, settings, ratings. */
export function LogStage() {
  const project = useProject((s) => s.project);
  const { doing: busy, results, projectId } = useTakingIn();
  const own = projectId === project?.id ? results : [];
  const [refused, placed] = [own.filter((r) => r.problem), own.filter((r) => r.placed)];
  const picker = useRef<HTMLInputElement>(null);
  const log = useRef<HTMLInputElement>(null);
  const [order, setOrder] = useState<keyof typeof SORTS>('taken');
  const [shown, setShown] = useState('all');
  const [said, setSaid] = useState('');
  const ready = project !== null;
  useEffect(() => {
    if (ready) void takeShared(bring);
  }, [ready]);
  if (!project) return null;
  const varying = settingsVarying(project.takes);
  const song = project.media.find((m) => m.id === project.song?.mediaId);
  return (
    <div className="min-h-full">
      <div className="mb-4 flex flex-wrap items-start justify-between gap-3">
        <h2 className="text-lg font-semibold">{say`The log`}</h2>
        <Button kind="main" onClick={() => picker.current?.click()} disabled={busy !== null}>
          <FolderInput size={17} aria-hidden />
          {say` Take in films and the song`}
        </Button>
        <input
          ref={picker}
          type="file"
          multiple
          hidden
          accept={ACCEPTED}
          data-testid="media-files"
          onChange={(e) => {
            const files = [...(e.target.files ?? [])];
            e.target.value = '';
            void bring(files);
          }}
        />
      </div>
      {busy && (
        <div className="mb-4">
          <Working text={busy.name} done={busy.done} onStop={stopTakingIn} />
        </div>
      )}
      {refused.map((r) => (
        <div key={r.name} className="mb-2" role="alert">
          <Note level="bad">
            <strong>{r.name}</strong>: {r.problem}
          </Note>
        </div>
      ))}
      {placed.length > 0 && (
        <ul className="mb-4 text-sm" role="status">
          {placed.map((r) => (
            <li key={r.name}>
              <strong>{r.name}</strong> {r.placed}
            </li>
          ))}
        </ul>
      )}
      <FirstFilm project={project} />
      {project.plans.map((plan) => (
        <section key={plan.id} className="mb-3">
          <h2 className="text-sm text-faint">{plan.name}</h2>
          <ul className="flex flex-wrap gap-x-6 gap-y-2">
            {plannedSlots(project, plan).map((slot, i) => {
              const count = project.takes.filter((t) => t.plan === plan.id && t.slot === slot.id).length;
              return (
                <li key={slot.id}>
                  <Tape index={i}>{slot.name}</Tape>{' '}
                  <span className={`num ${count ? 'text-good' : 'text-mark'}`}>{count ? say`${count} in` : say`missing`}</span>
                </li>
              );
            })}
          </ul>
        </section>
      ))}
      {varying.length > 0 && (
        <div className="mb-3">
          <Note level="unsure">{say`Not the same in all takes: ${varying.join('; ')}.`}</Note>
        </div>
      )}
      <p className="mb-5">
        {say`Song `}
        <span className={song ? 'text-good' : 'text-mark'}>{song ? song.name : say`missing`}</span>
      </p>
      {project.takes.length === 0 ? (
        <p className="rounded-md border-2 border-dashed border-rule p-10 text-center text-faint">
          {say`Drop your takes and the song here, or use the button. They stay on this device.`}
        </p>
      ) : (
        <>
          <div className="mb-2 grid grid-cols-2 items-end gap-3 sm:grid-cols-4">
            <SelectField label={say`Order`} value={order} options={ORDERS} onChange={(v) => setOrder(v as keyof typeof SORTS)} />
            <SelectField
              label={say`Show`}
              value={shown}
              options={[['all', say`all takes`], ['none', say`without a slot`], ...project.plans.map((p) => [p.id, p.name] as const)]}
              onChange={setShown}
            />
            <Button onClick={() => download(new Blob(['\ufeff', takeLogCsv(project)], { type: 'text/csv' }), 'take-log.csv')}>
              {say`Log as CSV`}
            </Button>
            <Button onClick={() => log.current?.click()}>{say`Read a log`}</Button>
            <input
              ref={log}
              type="file"
              hidden
              accept=".csv,text/csv"
              data-testid="log-file"
              onChange={(e) => {
                const [file] = e.target.files ?? [];
                e.target.value = '';
                if (file) void readTakeLog(file).then(setSaid);
              }}
            />
          </div>
          {said && <Note level="unsure">{said}</Note>}
          <ul className="border-t border-rule">
            {[...project.takes]
              .filter((t) => shown === 'all' || (shown === 'none' ? t.slot === null : t.plan === shown))
              .sort(SORTS[order])
              .map((take) => (
                <TakeRow key={take.id} take={take} />
              ))}
          </ul>
        </>
      )}
    </div>
  );
}
