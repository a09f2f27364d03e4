'use client';
import { type Project, type Shot, TRANSITIONS, type Transition } from '@/core/document';
import { shotFrames } from '@/core/evaluate';
import { say } from '@/core/words';
import { changeShot, trimShot } from '@/data/shots';
import { ColourField } from '@/ui/colour-field';
import { Button, NumberField } from '@/ui/controls';
import { SelectField } from '@/ui/value-field';

const NAMES: Record<Transition['kind'], string> = {
  dissolve: say`a dissolve`,
  dip: say`a dip to a colour`,
  slide: say`sliding over`,
  wipe: say`a wipe`,
  iris: say`an iris`,
  mask: say`one of its masks`,
};
const FRESH: Omit<Transition, 'kind'> = { frames: 4, angle: 90, r: 0, g: 0, b: 0 };

/** The shot that ends nearest before this one begins, and how many frames lie between. */
function gapBefore(project: Project, shot: Shot): { before: Shot; frames: number } | null {
  const [first] = shotFrames(project, shot);
  const ends = project.shots.filter((s) => s.id !== shot.id).map((before) => ({ before, frames: first - shotFrames(project, before)[1] }));
  const nearest = ends.filter(({ frames }) => frames >= 0).sort((a, b) => a.frames - b.frames)[0];
  return nearest && nearest.frames > 0 ? nearest : null;
}

/** How the shot takes the place of the one before it; and a gap before it closed. */
export function TransitionField({ project, shot }: { project: Project; shot: Shot }) {
  const { transition } = shot;
  const gap = gapBefore(project, shot);
  const masks = shot.layers.flatMap((layer) =>
    layer.masks.map((mask, i) => [`${layer.id} ${mask.id}`, say`${layer.name}: mask ${i + 1}, ${mask.kind}`] as const),
  );
  const put = (next: Transition | null) =>
    changeShot(shot.id, say`Let a shot come in otherwise`, (s) => {
      const { transition: _, ...rest } = s;
      return next ? { ...rest, transition: next } : rest;
    });
  return (
    <div className="grid grid-cols-2 items-end gap-2">
      <SelectField
        label={say`Comes in by`}
        value={transition?.kind ?? 'cut'}
        options={[['cut', say`a cut`], ...TRANSITIONS.map((kind) => [kind, NAMES[kind]] as const)]}
        onChange={(kind) => put(kind === 'cut' ? null : { ...FRESH, ...transition, kind: kind as Transition['kind'] })}
      />
      {transition && (
        <NumberField
          label={say`In all`}
          unit="frames"
          value={transition.frames}
          min={2}
          max={250}
          onChange={(v) => put({ ...transition, frames: Math.round(v) })}
        />
      )}
      {(transition?.kind === 'slide' || transition?.kind === 'wipe') && (
        <NumberField
          label={say`From (0 above, 90 left)`}
          unit="°"
          value={transition.angle}
          min={-360}
          max={360}
          step={45}
          onChange={(angle) => put({ ...transition, angle })}
        />
      )}
      {transition?.kind === 'mask' && (
        <SelectField
          label={say`Seen within`}
          value={transition.mask ? `${transition.mask.layerId} ${transition.mask.maskId}` : ''}
          options={[['', masks.length > 0 ? say`choose a mask` : say`no mask yet: add one to a layer`], ...masks]}
          onChange={(chosen) => {
            const [layerId, maskId] = chosen.split(' ');
            const { mask: _, ...rest } = transition;
            put(maskId ? { ...rest, mask: { layerId, maskId } } : rest);
          }}
        />
      )}
      {transition?.kind === 'dip' && (
        <ColourField
          label={say`Colour`}
          value={[transition.r, transition.g, transition.b]}
          onChange={([r, g, b]) => put({ ...transition, r, g, b })}
        />
      )}
      {gap && (
        <div className="col-span-2">
          <Button
            onClick={() => trimShot(gap.before.id, 'end', shotFrames(project, shot)[0])}
          >{say`Close the gap of ${gap.frames} frames before it`}</Button>
        </div>
      )}
    </div>
  );
}
