'use client';
import { CircleStop, Play } from 'lucide-react';
import { useState } from 'react';
import type { PlannedShot, Slot } from '@/core/plan';
import { say } from '@/core/words';
import { recordByHand, stopRecording, useCamera } from '@/data/camera';
import { runHandsFree, stopHandsFree, tellEnough, useHandsFree } from '@/data/hands-free';
import { Button, NumberField } from '@/ui/controls';
import { useKeys } from '@/ui/keymap';
import { SelectField, TickField } from '@/ui/value-field';

/** Space starts and ends hands-free filming, so that a clicker that sends a key will do; Escape stops. */
function useClicker(start: (() => void) | null): void {
  useKeys({ stop: stopHandsFree, film: () => (useHandsFree.getState().running ? tellEnough() : start?.()) });
}

/** Acting alone: slots, tries and count-in, then hands free. */
export function HandsFree({ plan, slots }: { plan: PlannedShot; slots: readonly Slot[] }) {
  const running = useHandsFree((s) => s.running);
  const open = useCamera((s) => s.state === 'open');
  const recording = useCamera((s) => s.recorded !== null);
  const [chosen, setChosen] = useState('all');
  const [tries, setTries] = useState(2);
  const [countIn, setCountIn] = useState(1);
  const [walk, setWalk] = useState(6);
  const [hold, setHold] = useState(8);
  const [spoken, setSpoken] = useState(true);
  const [unbroken, setUnbroken] = useState(false);
  const list = chosen === 'all' ? slots : slots.filter((s) => s.id === chosen);
  const [first] = list;
  const ready = open && !recording && first !== undefined;
  const start = () => void runHandsFree(plan, { slots: list, tries, countIn, walk, hold, spoken, unbroken });
  useClicker(ready ? start : null);
  return (
    <section className="space-y-3">
      <div className="grid grid-cols-2 gap-3">
        <SelectField
          label={say`Slots to film`}
          value={chosen}
          options={[['all', say`all slots in order`], ...slots.map((s) => [s.id, s.name] as const)]}
          onChange={setChosen}
        />
        <NumberField label={say`Tries of each`} unit="takes" value={tries} min={1} max={30} onChange={(v) => setTries(Math.round(v))} />
        <NumberField label={say`Count-in`} unit="bars" value={countIn} min={0} max={8} onChange={(v) => setCountIn(Math.round(v))} />
        <NumberField label={say`Time to the mark`} unit="s" value={walk} min={0} max={120} onChange={setWalk} />
        <NumberField label={say`Hold still, at most`} unit="s" value={hold} min={1} max={60} onChange={setHold} />
      </div>
      <TickField label={say`Spoken cues`} value={spoken} onChange={setSpoken} />
      <TickField label={say`One unbroken recording, slots marked inside it`} value={unbroken} onChange={setUnbroken} />
      <div className="flex flex-wrap gap-2">
        {running ? (
          <>
            <Button kind="main" onClick={tellEnough}>
              {say`Enough of this one`}
            </Button>
            <Button onClick={stopHandsFree}>
              <CircleStop size={17} aria-hidden />
              {say` Stop`}
            </Button>
          </>
        ) : (
          <>
            <Button kind="main" disabled={!ready} onClick={start}>
              <Play size={17} aria-hidden />
              {say` Film hands free`}
            </Button>
            <Button disabled={!open || !first} onClick={() => void (recording ? stopRecording() : recordByHand(plan, first))}>
              {recording ? say`End the recording` : say`Record by hand`}
            </Button>
          </>
        )}
      </div>
    </section>
  );
}
