'use client';
import { useEffect, useState } from 'react';
import { footageName, footageOf, type Project } from '@/core/document';
import { say } from '@/core/words';
import { compareWith } from '@/data/camera';
import { Slider } from '@/ui/slider';
import { SelectField } from '@/ui/value-field';
import { useThumbnail } from '@/views/shared';
import type { Ghost } from './viewfinder';

/** A frame of an earlier take over the live picture, to find the same pose and place again. */
export function GhostFields({ project, ghost, onGhost }: { project: Project; ghost: Ghost | null; onGhost: (g: Ghost | null) => void }) {
  const [takeId, setTakeId] = useState('');
  const [share, setShare] = useState(0.5);
  const take = project.takes.find((t) => t.id === takeId);
  const media = take ? footageOf(project, take.id) : null;
  const time = media ? media.from + share * (media.to - media.from) : 0;
  const src = useThumbnail(media?.id ?? '', media?.width ?? 0, time);
  const plate = project.takes.find((t) => t.plan === take?.plan && t.slot === 'plate' && t.id !== takeId);
  useEffect(() => {
    const empty = plate ? { mediaId: plate.mediaId, time: 0.5 } : null;
    void compareWith(media ? { mediaId: media.id, time } : null, empty).catch(() => undefined);
  }, [media, time, plate]);
  const { strength, how } = ghost ?? { strength: 0.5, how: 'over' as const };
  useEffect(() => {
    onGhost(media && src ? { src, strength, how } : null);
  }, [media, src, strength, how, onGhost]);
  return (
    <details className="border-t border-rule pt-1">
      <summary className="flex min-h-11 cursor-pointer items-center font-semibold">{say`Ghost of an earlier take`}</summary>
      <div className="grid grid-cols-2 gap-3">
        <SelectField
          label={say`Take`}
          value={takeId}
          options={[['', 'none'], ...project.takes.map((t) => [t.id, footageName(footageOf(project, t.id))] as const)]}
          onChange={setTakeId}
        />
        <SelectField
          label={say`Shown as`}
          value={how}
          options={[
            ['over', say`picture`],
            ['difference', say`difference`],
            ['edges', say`edges`],
          ]}
          onChange={(v) => ghost && onGhost({ ...ghost, how: v as Ghost['how'] })}
        />
        <div className="text-sm text-faint">
          {say`Where in the take`}
          <Slider label={say`Where in the take`} value={share} min={0} max={0.98} step={0.01} onChange={setShare} />
        </div>
        <div className="text-sm text-faint">
          {say`Strength`}
          <Slider
            label={say`Strength of the ghost`}
            value={strength}
            min={0.1}
            max={1}
            step={0.05}
            onChange={(v) => ghost && onGhost({ ...ghost, strength: v })}
          />
        </div>
      </div>
    </details>
  );
}
