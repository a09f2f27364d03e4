'use client';
import { Repeat } from 'lucide-react';
import { useShallow } from 'zustand/react/shallow';
import { say } from '@/core/words';
import { loopBar, usePlayback } from '@/data/playback';
import { Button, Tick } from '@/ui/controls';

/** How the song is listened to: a bar over and over, a bar counted in. */
export function PlayTools() {
  const { loop, countIn } = usePlayback(useShallow(({ loop, countIn }) => ({ loop, countIn })));
  return (
    <>
      <Button aria-pressed={loop !== null} kind={loop ? 'main' : 'plain'} onClick={loopBar}>
        <Repeat size={16} aria-hidden />
        {say`Loop bar`}
      </Button>
      <Tick className="px-1 text-sm" ticked={countIn} onTick={(on) => usePlayback.setState({ countIn: on })}>
        {say`Count in`}
      </Tick>
    </>
  );
}
