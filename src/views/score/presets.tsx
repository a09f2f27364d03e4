'use client';
import { useLiveQuery } from 'dexie-react-hooks';
import type { Move } from '@/core/moves';
import { fromPreset, presetOf, readPresets } from '@/core/moves';
import type { FrameRate } from '@/core/time';
import { say } from '@/core/words';
import { db } from '@/data/db';
import { Button } from '@/ui/controls';
import { KeepAs } from './keep-as';

const KEY = 'kept moves';

/** What a move is made with, kept under a name for other shots and other projects; without its takes and places. */
export function Presets({ rate, move, onTake }: { rate: FrameRate; move: Move; onTake: (next: Partial<Move>) => void }) {
  const kept = readPresets(useLiveQuery(() => db.settings.get(KEY))?.value);
  const mine = kept.filter((k) => k.kind === move.kind);
  const keep = async (name: string) => {
    const next = [...kept.filter((k) => k.kind !== move.kind || k.name !== name), presetOf(name, move, rate)];
    await db.settings.put({ key: KEY, value: next });
  };
  return (
    <div className="space-y-2 border-t border-rule pt-2">
      {mine.length > 0 && (
        <div className="flex flex-wrap gap-2">
          {mine.map((one) => (
            <Button key={one.name} onClick={() => onTake(fromPreset(one, rate))}>
              {one.name}
            </Button>
          ))}
        </div>
      )}
      <KeepAs label={say`Keep these numbers as`} onKeep={keep} />
    </div>
  );
}
