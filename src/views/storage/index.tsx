'use client';
import { useCallback, useEffect, useState } from 'react';
import { say } from '@/core/words';
import { useInstalled } from '@/data/installed';
import { askToPersist, dropCaches, originalOf, removeOriginal, removeStored, type StorageUse, storageUse, sweep } from '@/data/storage';
import { download, storedFilm } from '@/data/stored';
import { sentenceOf } from '@/media/sentence';
import { Button, Heading, Note } from '@/ui/controls';
import { Projects } from './projects';
import { Room, size } from './room';

/** A row of something kept, with what can be done with it. */
function Row({ name, about, children }: { name: string; about: string; children: React.ReactNode }) {
  return (
    <li className="flex flex-wrap items-center justify-between gap-2 border-b border-rule py-2">
      <span className="min-w-0 grow basis-48">
        <span className="block truncate">{name}</span>
        <span className="num text-sm text-faint">{about}</span>
      </span>
      <span className="flex flex-wrap gap-2">{children}</span>
    </li>
  );
}

const when = (at: number) => new Date(at).toLocaleString(undefined, { dateStyle: 'medium', timeStyle: 'short' });

const OFFLINE = {
  no: '',
  'being fetched': say`The application is being fetched into this browser, for times without a network.`,
  yes: say`The application is kept in this browser and opens without a network; the browser’s menu can install it.`,
  failed: say`The application could not be kept in this browser, so it needs the network to open. It is tried again at the next visit.`,
};

/** All that is kept in this browser: where the room goes, and how to get some back. */
export function StorageView() {
  const [use, setUse] = useState<StorageUse | null>(null);
  const [said, setSaid] = useState<{ level: 'good' | 'bad'; text: string } | null>(null);
  const [busy, setBusy] = useState(false);
  const offline = useInstalled((s) => s.offline);
  const look = useCallback(async () => {
    try {
      setUse(await storageUse());
    } catch (error) {
      setSaid({ level: 'bad', text: sentenceOf(error) });
    }
  }, []);
  useEffect(() => void look(), [look]);
  /** Does something and looks again; what it gives is a problem, or with `good` what was done. */
  const act = async (work: () => Promise<string>, good = '') => {
    setBusy(true);
    setSaid(null);
    try {
      const problem = await work();
      if (problem) setSaid({ level: 'bad', text: problem });
      else if (good) setSaid({ level: 'good', text: good });
    } catch (error) {
      setSaid({ level: 'bad', text: sentenceOf(error) });
    }
    await look();
    setBusy(false);
  };
  const clear = (work: () => Promise<unknown>, good: string) =>
    void act(async () => {
      await work();
      return '';
    }, good);
  return (
    <div className="mx-auto max-w-4xl p-4 sm:p-6">
      <Heading title={say`Projects and storage`} question={say`What is kept in this browser, and what takes the room?`} />
      {said && (
        <div className="mb-4" role={said.level === 'bad' ? 'alert' : 'status'}>
          <Note level={said.level}>{said.text}</Note>
        </div>
      )}
      {!use ? (
        <p className="text-faint">{say`Looking…`}</p>
      ) : (
        <fieldset disabled={busy} className="space-y-8">
          <Room
            use={use}
            onPersist={() =>
              void act(async () =>
                (await askToPersist())
                  ? ''
                  : say`The browser did not promise it. Installing the page, or visiting it often, helps; so does a project file kept elsewhere.`,
              )
            }
          />
          <Projects use={use} act={act} />
          <section>
            <h2 className="mb-1 text-lg font-semibold">{say`What can be made again`}</h2>
            <ul>
              <Row
                name={say`Measurements, beats, empty sets`}
                about={say`${use.derived.count} results, about ${size(use.derived.bytes)}; worked out again when they are needed`}
              >
                <Button
                  onClick={() => clear(dropCaches, say`Dropped. Measuring a take again takes about a quarter of its length.`)}
                  disabled={use.derived.count === 0}
                >
                  {say`Drop them`}
                </Button>
              </Row>
              <Row
                name={say`Files that belong to nothing`}
                about={say`${use.orphans.names.length} files, ${size(use.orphans.bytes)}: what was removed from every project, and from undo`}
              >
                <Button
                  onClick={() =>
                    void act(
                      async () => ((await sweep(0)) === null ? say`Files are being taken in just now. Try again when that is done.` : ''),
                      'Removed.',
                    )
                  }
                  disabled={use.orphans.names.length === 0}
                >
                  {say`Remove them`}
                </Button>
              </Row>
            </ul>
          </section>
          {use.films.length > 0 && (
            <section>
              <h2 className="mb-1 text-lg font-semibold">{say`Films made here`}</h2>
              <p className="text-sm text-faint">{say`Copies of what you have downloaded.`}</p>
              <ul>
                {use.films.map((f) => (
                  <Row key={f.name} name={f.name} about={`${size(f.bytes)}, ${when(f.at)}`}>
                    <Button onClick={() => clear(async () => download(await storedFilm(f.name), f.name), '')}>{say`Download`}</Button>
                    <Button onClick={() => clear(() => removeStored('films', f.name), say`${f.name} is removed.`)}>{say`Remove`}</Button>
                  </Row>
                ))}
              </ul>
            </section>
          )}
          {use.recordings.length > 0 && (
            <section>
              <h2 className="mb-1 text-lg font-semibold">{say`Recordings not yet kept as takes`}</h2>
              <p className="text-sm text-faint">{say`Under Shoot each can be kept as a take.`}</p>
              <ul>
                {use.recordings.map((f) => (
                  <Row key={f.name} name={say`Recording of ${when(f.at)}`} about={size(f.bytes)}>
                    <Button
                      onClick={() => clear(() => removeStored('recordings', f.name), say`The recording is removed.`)}
                    >{say`Remove`}</Button>
                  </Row>
                ))}
              </ul>
            </section>
          )}
          {use.originals.length > 0 && (
            <section>
              <h2 className="mb-1 text-lg font-semibold">{say`Documents as they were before repair`}</h2>
              <ul>
                {use.originals.map((o) => (
                  <Row key={o.id} name={o.name} about={when(o.at)}>
                    <Button
                      onClick={() =>
                        clear(async () => {
                          const blob = await originalOf(o.id);
                          if (blob) download(blob, 'project-before-repair.json');
                        }, '')
                      }
                    >
                      {say`Save as a file`}
                    </Button>
                    <Button onClick={() => clear(() => removeOriginal(o.id), 'Removed.')}>{say`Remove`}</Button>
                  </Row>
                ))}
              </ul>
            </section>
          )}
        </fieldset>
      )}
      <p className="mt-8 text-sm text-faint">
        {OFFLINE[offline]}
        {say` Nothing here is sent anywhere, but by you to a device of yours.`}{' '}
        <a href="/licences" className="inline-flex min-h-11 items-center underline">
          {say`Licences of what ships`}
        </a>
      </p>
    </div>
  );
}
