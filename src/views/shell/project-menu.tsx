'use client';
import { useLiveQuery } from 'dexie-react-hooks';
import { DropdownMenu } from 'radix-ui';
import type { ReactNode } from 'react';
import { db } from '@/data/db';
import { edit, newProject, openProject, useProject } from '@/data/store';

const item = 'cursor-default rounded px-3 py-2.5 outline-none data-[highlighted]:bg-rule/50';

function rename(): void {
  const { project } = useProject.getState();
  const name = window.prompt('Name of the project', project?.name)?.trim();
  if (name)
    edit('Rename the project', (draft) => {
      draft.name = name.slice(0, 100);
    });
}

interface ProjectMenuProps {
  trigger: ReactNode;
  onOpenFile: () => void;
  onDemo: () => void;
}

/** The other projects, a new one, the demo, and files. Open from the start: it is loaded when first asked for. */
export function ProjectMenu({ trigger, onOpenFile, onDemo }: ProjectMenuProps) {
  const open = useProject((s) => s.project?.id);
  const rows = useLiveQuery(() => db.projects.orderBy('changed').reverse().limit(8).toArray(), []) ?? [];
  return (
    <DropdownMenu.Root defaultOpen>
      <DropdownMenu.Trigger asChild>{trigger}</DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="start" className="z-30 w-72 rounded-lg border border-rule bg-sheet p-1 shadow-lg">
          {rows
            .filter((r) => r.id !== open)
            .map((r) => (
              <DropdownMenu.Item key={r.id} className={item} onSelect={() => void openProject(r.id)}>
                {(r.document as { name?: string }).name ?? 'Unnamed'}
              </DropdownMenu.Item>
            ))}
          {rows.length > 1 && <DropdownMenu.Separator className="my-1 h-px bg-rule" />}
          <DropdownMenu.Item className={item} onSelect={rename}>
            Rename this project
          </DropdownMenu.Item>
          <DropdownMenu.Item className={item} onSelect={() => void newProject('New project')}>
            New project
          </DropdownMenu.Item>
          <DropdownMenu.Item className={item} onSelect={onOpenFile}>
            Open a project file
          </DropdownMenu.Item>
          <DropdownMenu.Item className={item} onSelect={onDemo}>
            Open the demo afresh
          </DropdownMenu.Item>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
