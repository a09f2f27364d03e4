import { useState } from 'react';
import { say } from '@/core/words';
import { Button } from '@/ui/controls';

/** Something is kept under a name that is typed. */
export function KeepAs({ label, disabled, onKeep }: { label: string; disabled?: boolean; onKeep: (name: string) => Promise<void> }) {
  const [name, setName] = useState('');
  return (
    <div className="flex items-end gap-2">
      <label className="min-w-0 grow text-sm text-faint">
        {label}
        <input
          className="mt-0.5 block min-h-11 w-full rounded-md border border-rule bg-sheet px-2 text-ink sm:min-h-9"
          value={name}
          maxLength={40}
          onChange={(e) => setName(e.target.value)}
        />
      </label>
      <Button disabled={name.trim() === '' || disabled} onClick={() => void onKeep(name.trim()).then(() => setName(''))}>
        {say`Keep`}
      </Button>
    </div>
  );
}
