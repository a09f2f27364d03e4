'use client';
import { useEffect, useState } from 'react';
import { say } from '@/core/words';
import { useCamera } from '@/data/camera';
import { cutOffRecordings, discard, recover } from '@/data/recordings';
import { useProject } from '@/data/store';
import { Button, Note } from '@/ui/controls';

/** Offers what a crash or a dead battery cut off. */
export function Recovery() {
  const [names, setNames] = useState<string[]>([]);
  const [busy, setBusy] = useState(false);
  useEffect(() => {
    if (useCamera.getState().recorded !== null) return;
    let wanted = true;
    void cutOffRecordings().then(
      (found) => wanted && setNames(found),
      () => undefined,
    );
    return () => {
      wanted = false;
    };
  }, []);
  if (names.length === 0) return null;
  const act = async (how: (names: readonly string[]) => Promise<string>) => {
    setBusy(true);
    const problem = await how(names).catch((error: Error) => error.message);
    if (problem) useProject.setState({ problem: say`The take could not be kept: ${problem} The recording itself is still here.` });
    setBusy(false);
    setNames([]);
  };
  return (
    <div className="mb-4 space-y-2" role="alert">
      <Note level="fix">
        {say`${names.length === 1 ? say`A recording was cut off.` : say`${names.length} recordings were cut off.`} All but the last moment is here.`}
      </Note>
      <div className="flex gap-2">
        <Button kind="main" disabled={busy} onClick={() => void act(recover)}>
          {say`Keep it as a take`}
        </Button>
        <Button disabled={busy} onClick={() => void act(discard)}>
          {say`Throw it away`}
        </Button>
      </div>
    </div>
  );
}
