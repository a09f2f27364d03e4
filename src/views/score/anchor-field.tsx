'use client';
import { beatMapOf, isReveal, type Project, type Shot } from '@/core/shot';
import { type Anchor, barAndBeat, describeAnchor } from '@/core/time';
import { NumberField } from '@/ui/parts';
import { changeShot } from './use-line';

type Which = 'start' | 'end' | 'revealStart' | 'revealEnd';

function anchorOf(shot: Shot, which: Which): Anchor {
  if (which === 'start' || which === 'end' || !isReveal(shot)) return which === 'end' || which === 'revealEnd' ? shot.end : shot.start;
  return which === 'revealStart' ? shot.mix.start : shot.mix.end;
}

/** One anchor: bar, beat and frames, each typed or nudged. */
export function AnchorField({ project, shot, which, label }: { project: Project; shot: Shot; which: Which; label: string }) {
  const map = beatMapOf(project);
  const anchor = anchorOf(shot, which);
  const { bar, beat } = barAndBeat(map, anchor.beat);
  const set = (next: Partial<Anchor>) =>
    changeShot(shot.id, `Move the ${label.toLowerCase()}`, (s) => void Object.assign(anchorOf(s, which), next));
  return (
    <fieldset>
      <legend className="mb-0.5 text-sm">
        {label}: <span className="num text-faint">{describeAnchor(map, anchor)}</span>
      </legend>
      <div className="grid grid-cols-3 gap-1.5">
        <NumberField
          label="Bar"
          unit=""
          value={bar}
          min={-99}
          max={9999}
          onChange={(v) => set({ beat: anchor.beat + (Math.round(v) - bar) * map.beatsPerBar })}
        />
        <NumberField
          label="Beat"
          unit=""
          value={beat}
          min={1}
          max={map.beatsPerBar + 0.99}
          step={0.5}
          digits={2}
          onChange={(v) => set({ beat: anchor.beat + v - beat })}
        />
        <NumberField label="Frames" unit="f" value={anchor.offset} min={-250} max={250} onChange={(v) => set({ offset: Math.round(v) })} />
      </div>
    </fieldset>
  );
}
