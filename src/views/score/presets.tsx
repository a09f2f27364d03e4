'use client';
import { useLiveQuery } from 'dexie-react-hooks';
import { useState } from 'react';
import type { MoveOf } from '@/core/shot';
import { type FrameRate, fps } from '@/core/time';
import { db } from '@/data/db';
import { Button } from '@/ui/parts';

/** A whip as it is kept: seconds instead of frames, so that it is the same at any rate; travel is in frame widths already. */
interface KeptWhip {
  name: string;
  seconds: number;
  way: MoveOf<'whip'>['way'];
  travel: number;
  shutter: number;
}

const KEY = 'kept whips';

/** Whips kept under a name for other shots and other projects. */
export function Presets({
  rate,
  move,
  onTake,
}: {
  rate: FrameRate;
  move: MoveOf<'whip'>;
  onTake: (next: Partial<MoveOf<'whip'>>) => void;
}) {
  const kept = (useLiveQuery(() => db.settings.get(KEY))?.value ?? []) as KeptWhip[];
  const [name, setName] = useState('');
  const keep = async () => {
    const { way, travel, shutter, frames } = move;
    const next = [...kept.filter((k) => k.name !== name), { name, seconds: frames / fps(rate), way, travel, shutter }];
    await db.settings.put({ key: KEY, value: next });
    setName('');
  };
  return (
    <div className="space-y-2 border-t border-rule pt-2">
      {kept.length > 0 && (
        <div className="flex flex-wrap gap-2">
          {kept.map(({ name: label, seconds, ...rest }) => (
            <Button key={label} onClick={() => onTake({ ...rest, frames: Math.max(4, 2 * Math.round((seconds * fps(rate)) / 2)) })}>
              {label}
            </Button>
          ))}
        </div>
      )}
      <div className="flex items-end gap-2">
        <label className="min-w-0 grow text-sm text-faint">
          Keep this whip as
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
