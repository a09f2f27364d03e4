'use client';
import type { Project } from '@/core/document';
import { beatMapOf } from '@/core/evaluate';
import type { Place } from '@/core/layer';
import { barAndBeat, barToBeat, beatsInBar, describeAnchor } from '@/core/time';
import { say } from '@/core/words';
import { NumberField } from '@/ui/controls';

/** A place in the song: bar, beat and frames, each typed or nudged. `from` is the beat the place counts from: 0 for the song's own. */
export function PlaceField({
  project,
  label,
  place,
  from,
  onChange,
}: {
  project: Project;
  label: string;
  place: Place;
  from: number;
  onChange: (place: Place) => void;
}) {
  const map = beatMapOf(project);
  const at = { beat: place.beat + from, offset: place.offset };
  const { bar, beat } = barAndBeat(map, at.beat);
  const set = (next: Partial<Place>) => onChange({ ...place, ...next });
  return (
    <fieldset>
      <legend className="mb-0.5 text-sm">
        {label}: <span className="num text-faint">{describeAnchor(map, at)}</span>
      </legend>
      <div className="grid grid-cols-3 gap-1.5">
        <NumberField
          label={say`Bar`}
          unit=""
          value={bar}
          min={-99}
          max={9999}
          onChange={(v) => set({ beat: place.beat + barToBeat(map, Math.round(v)) - barToBeat(map, bar) })}
        />
        <NumberField
          label={say`Beat`}
          unit=""
          value={beat}
          min={1}
          max={beatsInBar(map, bar) + 0.99}
          step={0.5}
          digits={2}
          onChange={(v) => set({ beat: place.beat + v - beat })}
        />
        <NumberField
          label={say`Frames`}
          unit="f"
          value={place.offset}
          min={-250}
          max={250}
          onChange={(v) => set({ offset: Math.round(v) })}
        />
      </div>
    </fieldset>
  );
}
