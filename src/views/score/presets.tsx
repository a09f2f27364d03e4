'use client';
import { useLiveQuery } from 'dexie-react-hooks';
import { useState } from 'react';
import type { Move } from '@/core/moves';
import { fromPreset, presetOf, readPresets } from '@/core/moves';
import type { FrameRate } from '@/core/time';
import { db } from '@/data/db';
import { Button } from '@/ui/controls';

const KEY = 'kept moves';

/** What a move is made with, kept under a name for other shots and other projects; without its takes and places. */
export function Presets({ rate, move, onTake }: { rate: FrameRate; move: Move; onTake: (next: Partial<Move>) => void }) {
  const kept = readPresets(useLiveQuery(() => db.settings.get(KEY))?.value);
  const [name, setName] = useState('');
  const mine = kept.filter((k) => k.kind === move.kind);
  const keep = async () => {
    const next = [...kept.filter((k) => k.kind !== move.kind || k.name !== name), presetOf(name, move, rate)];
    await db.settings.put({ key: KEY, value: next });
    setName('');
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
      <div className="flex items-end gap-2">
        <label className="min-w-0 grow text-sm text-faint">
          Keep these numbers as
          <input
            className="mt-0.5 block min-h-11 w-full rounded-md border border-rule bg-sheet px-2 text-ink sm:min-h-9"
            value={name}
            maxLength={40}
            onChange={(e) => setName(e.target.value)}
          />
        </label>
        <Button disabled={name.trim() === ''} onClick={() => void keep()}>
          Keep
        </Button>
      </div>
    </div>
  );
}
