import { say } from '@/core/words';
import type { StorageUse } from '@/data/storage';
import { Button, Note } from '@/ui/controls';

/** Bytes in words, in the unit that fits. */
export function size(bytes: number): string {
  if (bytes < 1e6) return `${Math.ceil(bytes / 1e3)} kB`;
  return bytes < 1e9 ? `${(bytes / 1e6).toFixed(bytes < 1e7 ? 1 : 0)} MB` : `${(bytes / 1e9).toFixed(1)} GB`;
}

/** How full the browser's storage is, and whether it is safe from being cleared. */
export function Room({ use, onPersist }: { use: StorageUse; onPersist: () => void }) {
  const { quota, usage, persisted } = use;
  const share = quota && usage !== null ? Math.min(1, usage / quota) : null;
  return (
    <section className="space-y-3">
      {share !== null && usage !== null && quota && (
        <div>
          <p className="num mb-1">{say`${size(usage)} used, ${size(quota - usage)} left to this browser`}</p>
          <div
            role="img"
            aria-label={say`Storage used: ${Math.round(100 * share)} %`}
            className="h-3 overflow-hidden rounded-[2px] border border-rule bg-sheet"
          >
            <div className={`h-full ${share > 0.9 ? 'bg-mark' : 'bg-ink'}`} style={{ width: `${Math.max(0.5, 100 * share)}%` }} />
          </div>
        </div>
      )}
      {persisted ? (
        <Note level="good">{say`The browser has promised not to clear this by itself.`}</Note>
      ) : (
        <div className="flex flex-wrap items-center gap-2">
          <div className="grow basis-64">
            <Note level="unsure">{say`The browser may clear all of this by itself when the device is short of room.`}</Note>
          </div>
          <Button onClick={onPersist}>{say`Ask it not to`}</Button>
        </div>
      )}
      <p className="text-sm text-faint">
        {say`Only a project file (Deliver) kept elsewhere is a backup: it holds the films and the song as well.`}
      </p>
    </section>
  );
}
