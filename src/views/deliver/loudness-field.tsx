'use client';
import type { Project } from '@/core/document';
import { say } from '@/core/words';
import { edit } from '@/data/store';
import { SelectField } from '@/ui/value-field';

/** How loud the delivered film is: as it is mixed, or brought to a loudness with its peaks kept below full scale. */
export function LoudnessField({ project }: { project: Project }) {
  return (
    <div className="mb-3 max-w-xs">
      <SelectField
        label={say`Loudness of the film; its peaks are kept under -1 dBTP`}
        value={String(project.sound.target ?? '')}
        options={[
          ['', say`as it is mixed`],
          ['-14', say`-14 LUFS, usual on the net`],
          ['-16', say`-16 LUFS`],
          ['-23', say`-23 LUFS (EBU R 128)`],
        ]}
        onChange={(value) =>
          edit(say`Set the loudness of the film`, (draft) => {
            if (value === '') delete draft.sound.target;
            else draft.sound.target = Number(value);
          })
        }
      />
    </div>
  );
}
