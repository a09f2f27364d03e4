'use client';
import { say } from '@/core/words';
import { useMeasuring } from '@/data/measuring';
import { Working } from '@/ui/controls';

/** How far the one of some pairs is that is measured just now; by itself, so that what stands around it is not drawn anew with it. */
export function MeasuringNow({ keys, onStop }: { keys: ReadonlySet<string>; onStop?: () => void }) {
  const doing = useMeasuring((s) => (s.doing && keys.has(s.doing.key) ? s.doing : null));
  return doing && <Working text={say`Measuring ${doing.name}`} done={doing.done} onStop={onStop} />;
}
