'use client';
import { type Project, type SeamShot, seamAt } from '@/core/shot';
import { useProject } from '@/data/store';
import { NumberField } from '@/ui/parts';
import { changeShot } from './use-line';

/** What is typed of a seam: how soft it is, and a push to one side. */
export function SeamFields({ project, shot }: { project: Project; shot: SeamShot }) {
  const playhead = useProject((s) => s.playhead);
  const here = seamAt(project, shot, playhead);
  const middle = here.points.reduce((sum, p) => sum + p.x, 0) / here.points.length;
  const change = (label: string, how: (mix: SeamShot['mix']) => void) =>
    changeShot(shot.id, label, (s) => {
      if (s.mix.kind === 'seam') how(s.mix);
    });
  return (
    <div className="space-y-3">
      <div className="grid grid-cols-2 gap-2">
        <NumberField
          label="Feather at most"
          unit="%"
          value={shot.mix.feather}
          min={0}
          max={50}
          step={0.1}
          digits={1}
          onChange={(v) =>
            change('Feather the seam', (mix) => {
              mix.feather = v;
            })
          }
        />
        <NumberField
          label="Seam at"
          unit="%"
          value={middle}
          min={0}
          max={100}
          step={0.5}
          digits={1}
          onChange={(v) =>
            change('Push the seam', (mix) => {
              const stand = mix.stands.find((s) => s.from === here.from);
              for (const p of stand?.points ?? []) p.x += v - middle;
            })
          }
        />
      </div>
      <p className="text-sm text-faint">
        {shot.mix.stands.length === 1
          ? 'One seam stands through the whole shot.'
          : `The seam stands in ${shot.mix.stands.length} places, one after another; this is the one from ${here.from.toFixed(2)} s on.`}{' '}
        It was measured in Takes and can be measured anew there.
      </p>
    </div>
  );
}
