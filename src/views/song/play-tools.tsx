'use client';
import { Repeat } from 'lucide-react';
import { loopBar, usePlayback } from '@/data/playback';
import { Button } from '@/ui/parts';

/** How the song is listened to: a bar over and over, a bar counted in. */
export function PlayTools() {
  const { loop, countIn } = usePlayback();
  return (
    <>
      <Button aria-pressed={loop !== null} kind={loop ? 'main' : 'plain'} onClick={loopBar}>
        <Repeat size={16} aria-hidden />
        Loop bar
      </Button>
      <label className="flex min-h-11 items-center gap-2 px-1 text-sm sm:min-h-9">
        <input
          type="checkbox"
          className="h-4 w-4 accent-[var(--color-ink)]"
          checked={countIn}
          onChange={(e) => usePlayback.setState({ countIn: e.target.checked })}
        />
        Count in
      </label>
    </>
  );
}
