'use client';
import { useLiveQuery } from 'dexie-react-hooks';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { DropdownMenu } from 'radix-ui';
import type { ReactNode } from 'react';
import { say } from '@/core/words';
import { db } from '@/data/db';
import { freeName, nameOf } from '@/data/project-names';
import { newProject, openProject, useProject } from '@/data/store';

const item = 'cursor-default rounded px-3 py-2.5 outline-none data-[highlighted]:bg-rule/50';

interface ProjectMenuProps {
  trigger: ReactNode;
  onOpenFile: () => void;
  onDemo: () => void;
  onVersions: () => void;
}

/** The other projects, a new one, the demo, and files. Open from the start: it is loaded when first asked for. */
export function ProjectMenu({ trigger, onOpenFile, onDemo, onVersions }: ProjectMenuProps) {
  const router = useRouter();
  const open = useProject((s) => s.project?.id);
  const rows =
    useLiveQuery(
      () =>
        db.projects
          .orderBy('changed')
          .reverse()
          .filter((row) => !row.deleted)
          .limit(8)
          .toArray(),
      [],
    ) ?? [];
  return (
    <DropdownMenu.Root defaultOpen>
      <DropdownMenu.Trigger asChild>{trigger}</DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="start" className="z-30 w-72 rounded-lg border border-rule bg-sheet p-1 shadow-lg">
          {rows
            .filter((r) => r.id !== open)
            .map((r) => (
              <DropdownMenu.Item key={r.id} className={item} onSelect={() => void openProject(r.id)}>
                {nameOf(r.document)}
              </DropdownMenu.Item>
            ))}
          {rows.length > 1 && <DropdownMenu.Separator className="my-1 h-px bg-rule" />}
          <DropdownMenu.Item className={item} asChild>
            <Link href="/" prefetch={false}>
              {say`All projects`}
            </Link>
          </DropdownMenu.Item>
          <DropdownMenu.Item className={item} asChild>
            <Link href="/storage" prefetch={false}>
              {say`Projects and storage: rename, copy, delete`}
            </Link>
          </DropdownMenu.Item>
          <DropdownMenu.Item className={item} asChild>
            <Link href="/devices" prefetch={false}>
              {say`To or from another device`}
            </Link>
          </DropdownMenu.Item>
          {open && (
            <DropdownMenu.Item className={item} onSelect={onVersions}>
              {say`Earlier versions`}
            </DropdownMenu.Item>
          )}
          <DropdownMenu.Item
            className={item}
            onSelect={() =>
              void newProject(
                freeName(
                  say`New project`,
                  rows.map((r) => nameOf(r.document)),
                ),
              ).then(() => router.push('/shoot'))
            }
          >
            {say`New project`}
          </DropdownMenu.Item>
          <DropdownMenu.Item className={item} onSelect={onOpenFile}>
            {say`Open a project file`}
          </DropdownMenu.Item>
          <DropdownMenu.Item className={item} onSelect={onDemo}>
            {say`Open the demo afresh`}
          </DropdownMenu.Item>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
