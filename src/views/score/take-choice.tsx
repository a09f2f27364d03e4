'use client';
import { footageName, footageOf, type Project } from '@/core/document';
import { Tape } from '@/ui/controls';

/** A take chosen from all there are, with its tape beside it. */
export function TakeChoice({
  project,
  label,
  takeId,
  onChange,
}: {
  project: Project;
  label: string;
  takeId: string;
  onChange: (takeId: string) => void;
}) {
  return (
    <label className="block min-w-0 text-sm text-faint">
      {label}
      <span className="mt-0.5 flex items-center gap-2">
        <Tape index={project.takes.find((t) => t.id === takeId)?.tape ?? 0}>{''}</Tape>
        <select
          className="block min-h-11 w-full min-w-0 rounded-md border border-rule bg-sheet px-2 text-ink sm:min-h-9"
          value={takeId}
          onChange={(e) => onChange(e.target.value)}
        >
          {project.takes.map((t) => (
            <option key={t.id} value={t.id}>
              {footageName(footageOf(project, t.id))}
            </option>
          ))}
        </select>
      </span>
    </label>
  );
}
