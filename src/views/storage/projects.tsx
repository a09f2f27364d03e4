'use client';
import { useState } from 'react';
import { say } from '@/core/words';
import { bringBack, copyProject, deleteForGood, deleteProject, forgetUndo, KEPT_DAYS, renameProject } from '@/data/projects';
import type { ProjectUse, StorageUse } from '@/data/storage';
import { openProject } from '@/data/store';
import { Button } from '@/ui/controls';
import { size } from './room';

type Act = (work: () => Promise<string>, good?: string) => Promise<void>;

const day = (at: number) => new Date(at).toLocaleDateString(undefined, { dateStyle: 'medium' });

/** The name of a project, changed where it stands. */
function Name({ project, act }: { project: ProjectUse; act: Act }) {
  const [name, setName] = useState(project.name);
  const done = () => {
    if (name.trim() && name.trim() !== project.name) void act(() => renameProject(project.id, name));
    else setName(project.name);
  };
  return (
    <input
      className="min-h-11 w-full rounded-md border border-transparent bg-transparent px-1 font-medium hover:border-rule focus:border-ink sm:min-h-9"
      aria-label={say`Name of the project ${project.name}`}
      value={name}
      maxLength={100}
      onChange={(e) => setName(e.target.value)}
      onBlur={done}
      onKeyDown={(e) => {
        if (e.key === 'Enter') e.currentTarget.blur();
        if (e.key === 'Escape') setName(project.name);
      }}
    />
  );
}

function Project({ project, act }: { project: ProjectUse; act: Act }) {
  const { id, open, bytes, own, undo, changed } = project;
  return (
    <li className="border-b border-rule py-2" data-testid="project-row">
      <div className="flex flex-wrap items-center justify-between gap-2">
        <div className="min-w-0 grow basis-56">
          <Name key={project.name} project={project} act={act} />
          <p className="num px-1 text-sm text-faint">
            {say`${open ? say`open now, ` : ''}changed ${day(changed)}, ${size(bytes)} of films and sound${own < bytes ? say`, ${size(own)} of it used nowhere else` : ''}${undo > 0 ? say`; ${size(undo)} more only for undo and earlier versions` : ''}`}
          </p>
        </div>
        <span className="flex flex-wrap gap-2">
          {!open && (
            <Button
              onClick={() =>
                void act(async () => {
                  await openProject(id);
                  return '';
                })
              }
            >
              {say`Open`}
            </Button>
          )}
          <Button onClick={() => void act(() => copyProject(id))}>{say`Copy`}</Button>
          {!open && undo > 0 && (
            <Button onClick={() => void act(() => forgetUndo(id), say`Its steps of undo and its earlier versions are forgotten.`)}>
              {say`Forget undo and versions`}
            </Button>
          )}
          <Button
            className="text-mark"
            onClick={() =>
              void act(() => deleteProject(id), say`“${project.name}” is deleted. It can be brought back for ${KEPT_DAYS} days, below.`)
            }
          >
            {say`Delete`}
          </Button>
        </span>
      </div>
    </li>
  );
}

/** Every project: renamed in place, opened, copied, deleted, and brought back. */
export function Projects({ use, act }: { use: StorageUse; act: Act }) {
  const here = use.projects.filter((p) => p.deleted === null);
  const gone = use.projects.filter((p) => p.deleted !== null);
  return (
    <section>
      <h2 className="mb-1 text-lg font-semibold">{say`Projects`}</h2>
      <ul className="border-t border-rule">
        {here.map((project) => (
          <Project key={project.id} project={project} act={act} />
        ))}
      </ul>
      {gone.length > 0 && (
        <>
          <h3 className="mt-4 mb-1 font-semibold">{say`Deleted`}</h3>
          <ul className="border-t border-rule">
            {gone.map((project) => (
              <li key={project.id} className="flex flex-wrap items-center justify-between gap-2 border-b border-rule py-2">
                <span className="min-w-0 grow basis-48">
                  <span className="block truncate">{project.name}</span>
                  <span className="num text-sm text-faint">
                    {say`${size(project.own)} to be freed; gone for good on ${day((project.deleted as number) + KEPT_DAYS * 86_400_000)}`}
                  </span>
                </span>
                <span className="flex flex-wrap gap-2">
                  <Button onClick={() => void act(() => bringBack(project.id))}>{say`Bring back`}</Button>
                  <Button
                    className="text-mark"
                    onClick={() =>
                      void act(() => deleteForGood(project.id), say`Deleted for good. Its files are among those that belong to nothing.`)
                    }
                  >
                    {say`Delete for good`}
                  </Button>
                </span>
              </li>
            ))}
          </ul>
        </>
      )}
    </section>
  );
}
