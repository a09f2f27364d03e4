'use client';
import { useState } from 'react';
import type { Course } from '@/core/moves';
import type { Project } from '@/core/shot';
import { courseOf } from '@/data/kept';
import { Note, Tick, Working } from '@/ui/parts';

/** Whether somebody in a take is followed; where they are is found in the take when it is first asked for. */
export function FollowChoice({
  project,
  takeId,
  label,
  track,
  onChange,
}: {
  project: Project;
  takeId: string;
  label: string;
  track: Course | null;
  onChange: (track: Course | null) => void;
}) {
  const [doing, setDoing] = useState<number | null>(null);
  const [said, setSaid] = useState('');
  const find = async () => {
    setDoing(0);
    setSaid('');
    try {
      onChange(await courseOf(project, takeId, setDoing));
    } catch (error) {
      setSaid(error instanceof Error ? error.message : String(error));
    }
    setDoing(null);
  };
  return (
    <div className="space-y-1">
      {doing !== null ? (
        <Working text="Finding them in the take" done={doing} />
      ) : (
        <Tick ticked={track !== null} onTick={(on) => (on ? void find() : onChange(null))}>
          {label}
        </Tick>
      )}
      {said && <Note level="unsure">{said}</Note>}
    </div>
  );
}
