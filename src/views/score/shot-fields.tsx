'use client';
import { footageName, footageOf, isReveal, isSeam, type Project, type Shot } from '@/core/shot';
import { marginFor } from '@/data/media';
import { edit, useProject } from '@/data/store';
import { Button, NumberField, Tape } from '@/ui/parts';
import { AnchorField } from './anchor-field';
import { RevealFields } from './reveal-fields';
import { SeamFields } from './seam-fields';
import { changeShot } from './use-line';

/** Everything about the selected shot that is typed or chosen. */
export function ShotFields({ project, shot }: { project: Project; shot: Shot }) {
  const names = isSeam(shot)
    ? ['Left of the seam', 'Right of it', 'Its second at the start']
    : ['Seen first', 'Seen after', 'Its second at the reveal'];
  const takeChoice = (side: 'before' | 'after', label: string) => (
    <div>
      <label className="text-sm text-faint">
        {label}
        <select
          className="mt-0.5 block min-h-11 w-full rounded-md border border-rule bg-sheet px-2 text-ink sm:min-h-9"
          value={shot[side].takeId}
          onChange={(e) =>
            changeShot(shot.id, 'Swap the take', (s) => {
              s[side].takeId = e.target.value;
            })
          }
        >
          {project.takes.map((t) => (
            <option key={t.id} value={t.id}>
              {footageName(footageOf(project, t.id))}
            </option>
          ))}
        </select>
      </label>
      <div className="mt-1 flex items-end justify-between gap-2">
        <Tape index={project.takes.find((t) => t.id === shot[side].takeId)?.tape ?? 0}>{''}</Tape>
        <div className="w-36">
          <NumberField
            label={names[2]}
            unit="s"
            value={shot[side].sync}
            min={0}
            max={3600}
            step={0.04}
            digits={2}
            onChange={(v) =>
              changeShot(shot.id, 'Slide the take', (s) => {
                s[side].sync = v;
              })
            }
          />
        </div>
      </div>
    </div>
  );
  return (
    <div className="space-y-4">
      {isReveal(shot) && <RevealFields project={project} shot={shot} />}
      {isSeam(shot) && <SeamFields project={project} shot={shot} />}
      <details>
        <summary className="flex min-h-11 cursor-pointer items-center sm:min-h-8">The shot’s own bars, its takes and margin</summary>
        <div className="mt-2 space-y-4">
          <AnchorField project={project} shot={shot} which="start" label="Shot begins" />
          <AnchorField project={project} shot={shot} which="end" label="Shot ends" />
          {takeChoice('before', names[0])}
          {takeChoice('after', names[1])}
          <NumberField
            label={`Shown at (${marginFor(project, [shot.before.takeId, shot.after.takeId]).toFixed(2)} % needed)`}
            unit="%"
            value={shot.overscan}
            min={100}
            max={150}
            step={0.1}
            digits={2}
            onChange={(v) =>
              changeShot(shot.id, 'Enlarge the shot', (s) => {
                s.overscan = v;
              })
            }
          />
          <Button
            kind="quiet"
            className="text-mark"
            onClick={() => {
              edit('Take the shot off the score', (draft) => {
                draft.shots = draft.shots.filter((s) => s.id !== shot.id);
              });
              useProject.setState({ selectedShot: null });
            }}
          >
            Take the shot off the score
          </Button>
        </div>
      </details>
    </div>
  );
}
