'use client';
import { useLiveQuery } from 'dexie-react-hooks';
import { useEffect, useState } from 'react';
import { say } from '@/core/words';
import { db, openData, pictureKey } from '@/data/db';
import { nameOf } from '@/data/project-names';
import { Button } from '@/ui/controls';
import { SelectField, TextField } from '@/ui/value-field';

interface Listed {
  id: string;
  name: string;
  changed: number;
  picture: string;
}

const ORDERS = [
  ['changed', say`changed last`],
  ['name', say`by name`],
] as const;

/** Every project that is not deleted, with its picture. */
async function listed(): Promise<Listed[]> {
  await openData();
  const rows = (await db.projects.orderBy('changed').reverse().toArray()).filter((row) => !row.deleted);
  const pictures = await db.settings.bulkGet(rows.map(({ id }) => pictureKey(id)));
  return rows.map(({ id, document, changed }, i) => ({
    id,
    name: nameOf(document),
    changed,
    picture: (pictures[i]?.value as { url?: string } | undefined)?.url ?? '',
  }));
}

interface ProjectsProps {
  busy: boolean;
  onOpen: (id: string) => void;
  onSay: (sentence: string) => void;
}

/** The projects there are, by their pictures: found, opened, named anew, copied, deleted. */
export function Projects({ busy, onOpen, onSay }: ProjectsProps) {
  const projects = useLiveQuery(() => listed().catch(() => []), []) ?? [];
  const [words, setWords] = useState('');
  const [order, setOrder] = useState<(typeof ORDERS)[number][0]>('changed');
  const [deleted, setDeleted] = useState<Listed | null>(null);
  const [naming, setNaming] = useState('');
  const newest = projects[0]?.changed;
  useEffect(() => {
    if (newest === undefined) return;
    const soon = setTimeout(
      () => void import('@/data/project-pictures').then(({ drawProjects }) => drawProjects()).catch(() => undefined),
      1000,
    );
    return () => clearTimeout(soon);
  }, [newest]);
  if (projects.length === 0 && !deleted) return null;
  const found = projects.filter(({ name }) => name.toLowerCase().includes(words.trim().toLowerCase()));
  const shown = order === 'name' ? found.toSorted((a, b) => a.name.localeCompare(b.name)) : found;
  const act = async (how: (all: typeof import('@/data/projects')) => Promise<string>) => onSay(await how(await import('@/data/projects')));
  return (
    <section aria-labelledby="projects" className="order-first md:col-span-2">
      <div className="mb-3 flex flex-wrap items-end gap-3">
        <h2 id="projects" className="grow text-2xl font-semibold">
          {say`Projects`}
        </h2>
        {(projects.length > 1 || words !== '') && (
          <>
            <label className="flex flex-col gap-0.5 text-sm text-faint">
              {say`Find a project`}
              <input
                type="search"
                className="min-h-11 rounded-md border border-rule bg-sheet px-2 text-ink sm:min-h-9"
                value={words}
                onChange={(e) => setWords(e.target.value)}
              />
            </label>
            <SelectField label={say`Order`} value={order} options={ORDERS} onChange={(o) => setOrder(o as typeof order)} />
          </>
        )}
      </div>
      {deleted && (
        <p className="mb-3 flex flex-wrap items-center gap-3" role="status">
          “{deleted.name}
          {say`” is deleted. It can be brought back for seven days, here or under Storage.`}
          <Button
            onClick={() =>
              void act(async ({ bringBack }) => {
                const said = await bringBack(deleted.id);
                setDeleted(null);
                return said;
              })
            }
          >
            {say`Bring it back`}
          </Button>
        </p>
      )}
      <ul className="grid gap-4 sm:grid-cols-2 lg:grid-cols-4" aria-label={say`Projects`}>
        {shown.map((project) => (
          <li key={project.id} className="border border-rule bg-sheet" data-testid="project-card">
            <button type="button" className="block w-full text-left" disabled={busy} onClick={() => onOpen(project.id)}>
              <span className="flex aspect-video items-center justify-center overflow-hidden bg-well">
                {project.picture && <img src={project.picture} alt="" className="h-full w-full object-contain" />}
              </span>
              <span className="block truncate px-2 pt-2 font-semibold">{project.name}</span>
              <span className="block px-2 pb-1 text-sm text-faint">
                {say`changed `}
                <span className="num">{new Date(project.changed).toLocaleDateString(undefined, { dateStyle: 'medium' })}</span>
              </span>
            </button>
            {naming === project.id && (
              <div className="px-2 pb-1">
                <TextField
                  label={say`Name`}
                  value={project.name}
                  onChange={(name) =>
                    void act(async ({ renameProject }) => {
                      setNaming('');
                      return renameProject(project.id, name);
                    })
                  }
                />
              </div>
            )}
            <div className="flex flex-wrap">
              <Button kind="quiet" aria-expanded={naming === project.id} onClick={() => setNaming(naming === project.id ? '' : project.id)}>
                {say`Rename`}
              </Button>
              <Button kind="quiet" onClick={() => void act(({ copyProject }) => copyProject(project.id))}>
                {say`Copy`}
              </Button>
              <Button
                kind="quiet"
                className="text-mark"
                onClick={() =>
                  void act(async ({ deleteProject }) => {
                    const said = await deleteProject(project.id);
                    if (!said) setDeleted(project);
                    return said;
                  })
                }
              >
                {say`Delete`}
              </Button>
            </div>
          </li>
        ))}
      </ul>
      {shown.length === 0 && projects.length > 0 && <p className="text-faint">{say`No project is called that.`}</p>}
    </section>
  );
}
