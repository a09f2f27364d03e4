/** Milliseconds after a press, a key or a turn of the wheel in which long work waits, so that what was asked for is painted first. */
const REST = 300;
/** Milliseconds it waits at most, however long the hand goes on. */
const MOST = 3000;

let used = Number.NEGATIVE_INFINITY;
if (typeof window !== 'undefined')
  for (const kind of ['pointerdown', 'keydown', 'wheel'])
    window.addEventListener(kind, () => (used = performance.now()), { capture: true, passive: true });

/** Resolves once nothing was pressed, typed or scrolled for a moment; after three seconds anyway. */
export async function handRests(): Promise<void> {
  const began = performance.now();
  while (performance.now() - used < REST && performance.now() - began < MOST)
    await new Promise((go) => setTimeout(go, REST - (performance.now() - used)));
}
