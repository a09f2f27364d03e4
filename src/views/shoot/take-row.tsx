'use client';
import { footageName, footageOf, type Take, type TakeSettings } from '@/core/document';
import { plannedSlots } from '@/core/edit';
import { say } from '@/core/words';
import { edit, useProject } from '@/data/store';
import { takeOut } from '@/data/take-out';
import { Button, Tape } from '@/ui/controls';
import { TickField } from '@/ui/value-field';
import { useThumbnail } from '@/views/shared';
import { MicField } from './mic-field';

/** Notes for one tap. */
const TAPS = ['lovely', say`too late`, say`out of place`];
const SETTINGS: [keyof TakeSettings, string, string][] = [
  ['shutter', 'Shutter', '1/50'],
  ['aperture', 'Aperture', 'f/5.6'],
  ['iso', 'ISO', '800'],
  ['whiteBalance', say`White balance`, '3200 K'],
  ['lens', 'Lens', '28 mm'],
];
const RATINGS = ['no rating', 'spare', 'good', 'best'] as const;

function change(id: string, label: string, how: (take: Take) => void): void {
  edit(label, (draft) => {
    const take = draft.takes.find((t) => t.id === id);
    if (take) how(take);
  });
}

/** One take in the log: what it is, its slot and rating, settings and note. */
export function TakeRow({ take }: { take: Take }) {
  const project = useProject((s) => s.project);
  const media = project ? footageOf(project, take.id) : null;
  const picture = useThumbnail(take.mediaId, media?.width ?? 1280, media ? Math.min(media.from + 1, (media.from + media.to) / 2) : 1);
  if (!project || !media) return null;
  const field = 'min-h-11 w-full rounded-md border border-rule bg-sheet px-2 text-ink sm:min-h-9';
  return (
    <li className="border-b border-rule py-4">
      <div className="grid gap-3 sm:grid-cols-[9rem_1fr_auto]">
        <div className="aspect-video w-36 overflow-hidden bg-well">
          {picture && <img src={picture} alt="" className="h-full w-full object-contain" />}
        </div>
        <div>
          <Tape index={take.tape}>{footageName(media)}</Tape>
          <p className="num mt-1 text-sm text-faint">
            {say`${media.width}×${media.height}, ${media.fps.toFixed(2)} fps${media.variableRate ? say` (varies)` : ''}${media.dynamic ? say`, HDR (${media.dynamic.toUpperCase()}) drawn in to BT.709` : ''}, ${(media.to - media.from).toFixed(1)} s, ${media.codec}${media.hasSound ? '' : say`, no sound`}${media.rotation ? say`, turned ${media.rotation}°` : ''}${media.clear ? say`, clear in places` : ''}`}
          </p>
          {take.filmedAt !== null && (
            <p className="num text-sm text-faint">{say`filmed at ${new Date(take.filmedAt).toLocaleTimeString()}`}</p>
          )}
          {take.live?.bumps.map((b) => (
            <p key={b.time} className="num text-sm text-mark">{say`knocked by ${b.size.toFixed(1)} px at ${b.time.toFixed(1)} s`}</p>
          ))}
        </div>
        <div className="flex flex-wrap items-start gap-2">
          <label className="text-sm text-faint">
            {say`Slot`}
            <select
              className={`${field} mt-0.5`}
              value={take.plan && take.slot ? `${take.plan} ${take.slot}` : ''}
              onChange={(e) =>
                change(take.id, say`Move the take to a slot`, (t) => {
                  const [plan, slot] = e.target.value.split(' ');
                  t.plan = slot ? plan : null;
                  t.slot = slot ?? null;
                })
              }
            >
              <option value="">{say`none`}</option>
              {project.plans.map((plan) => (
                <optgroup key={plan.id} label={plan.name}>
                  {plannedSlots(project, plan).map((s) => (
                    <option key={s.id} value={`${plan.id} ${s.id}`}>
                      {s.name}
                    </option>
                  ))}
                </optgroup>
              ))}
            </select>
          </label>
          <fieldset className="text-sm text-faint">
            <legend>{say`Rating: ${RATINGS[take.rating]}`}</legend>
            <div className="flex">
              {[1, 2, 3].map((r) => (
                <button
                  key={r}
                  type="button"
                  className="min-h-11 min-w-11 text-xl sm:min-h-9 sm:min-w-9"
                  aria-label={say`Rate ${RATINGS[r]}`}
                  aria-pressed={take.rating >= r}
                  onClick={() =>
                    change(take.id, say`Rate the take`, (t) => {
                      t.rating = t.rating === r ? r - 1 : r;
                    })
                  }
                >
                  <span
                    aria-hidden
                    className={`inline-block h-4 w-5 -rotate-6 rounded-[1px] border border-ink ${take.rating >= r ? 'bg-ink' : ''}`}
                  />
                </button>
              ))}
            </div>
          </fieldset>
        </div>
      </div>
      <TickField
        value={take.overlay ?? false}
        onChange={(overlay) =>
          change(take.id, overlay ? say`Take it out of the set-up` : say`Put it back with the set-up`, (t) => {
            if (overlay) t.overlay = true;
            else delete t.overlay;
          })
        }
        label={<span className="text-sm text-faint">{say`A graphic or overlay: part of no set-up, measured against nothing`}</span>}
      />
      <details className="mt-2">
        <summary className="flex min-h-11 cursor-pointer items-center text-sm text-faint sm:min-h-8">
          {say`Settings and note${take.note ? `: ${take.note}` : ''}`}
        </summary>
        <div className="mt-1 grid grid-cols-2 gap-3 sm:grid-cols-5">
          {SETTINGS.map(([key, name, hint]) => (
            <label key={key} className="text-sm text-faint">
              {name}
              <input
                className={`num ${field}`}
                defaultValue={take.settings[key]}
                key={take.settings[key]}
                placeholder={hint}
                maxLength={20}
                onBlur={(e) =>
                  e.target.value !== take.settings[key] &&
                  change(take.id, say`Note the ${name.toLowerCase()}`, (t) => {
                    t.settings[key] = e.target.value;
                  })
                }
              />
            </label>
          ))}
          <label className="col-span-2 text-sm text-faint sm:col-span-5">
            {say`Note`}
            <input
              className={field}
              defaultValue={take.note}
              key={take.note}
              maxLength={2000}
              onBlur={(e) =>
                e.target.value !== take.note &&
                change(take.id, say`Write a note`, (t) => {
                  t.note = e.target.value;
                })
              }
            />
          </label>
        </div>
        <div className="mt-2 flex flex-wrap gap-2">
          {TAPS.map((tap) => (
            <Button
              key={tap}
              onClick={() =>
                change(take.id, say`Write a note`, (t) => {
                  t.note = t.note ? `${t.note}; ${tap}`.slice(0, 2000) : tap;
                })
              }
            >
              {tap}
            </Button>
          ))}
        </div>
        <MicField take={take} />
        <Button kind="quiet" className="mt-2 text-mark" onClick={() => void takeOut(take.id)}>
          {say`Take it out of the project`}
        </Button>
      </details>
    </li>
  );
}
