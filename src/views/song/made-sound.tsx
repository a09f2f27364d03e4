'use client';
import { useState } from 'react';
import { SOUND_KINDS, type SoundKind, VOICES } from '@/core/sounds';
import { say } from '@/core/words';
import { layMadeSound } from '@/data/move-sounds';
import { Button, NumberField } from '@/ui/controls';
import { SelectField } from '@/ui/value-field';

/** A sound that the application makes itself, laid so that it meets the playhead. */
export function MadeSound({
  disabled,
  work,
}: {
  disabled: boolean;
  work: (text: string, job: (onProgress: (done: number) => void) => Promise<string>) => void;
}) {
  const [kind, setKind] = useState<SoundKind>('whoosh');
  const [seconds, setSeconds] = useState<number>(VOICES.whoosh.usual);
  const [seed, setSeed] = useState(1);
  return (
    <fieldset className="flex flex-wrap items-end gap-2" aria-label={say`A sound of our own making`}>
      <div className="w-44">
        <SelectField
          label={say`Make a sound`}
          value={kind}
          options={SOUND_KINDS.map((k) => [k, k] as const)}
          onChange={(next) => {
            setKind(next as SoundKind);
            setSeconds(VOICES[next as SoundKind].usual);
          }}
        />
      </div>
      <div className="w-24">
        <NumberField label={say`Lasts`} unit="s" value={seconds} min={0.05} max={30} step={0.1} digits={2} onChange={setSeconds} />
      </div>
      <div className="w-20">
        <NumberField label={say`Seed`} unit="" value={seed} min={1} max={9999} onChange={(v) => setSeed(Math.round(v))} />
      </div>
      <Button disabled={disabled} onClick={() => work(say`Making a ${kind}`, (tell) => layMadeSound(kind, seconds, seed, tell))}>
        {say`Lay it on the playhead`}
      </Button>
      <p className="w-full text-sm text-faint">
        {VOICES[kind].about}
        {VOICES[kind].meets > 0 ? say`; it leads, so that it is loudest at the playhead.` : '.'}
      </p>
    </fieldset>
  );
}
