import { afterAll, beforeEach, describe, expect, it, vi } from 'vitest';

vi.useFakeTimers({ toFake: ['setTimeout', 'performance'] });
const page = new EventTarget();
vi.stubGlobal('window', page);
const { handRests } = await import('./hand-rests');
afterAll(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

/** Whether it has resolved so far. */
function asked(): { over: () => boolean } {
  let over = false;
  void handRests().then(() => {
    over = true;
  });
  return { over: () => over };
}
const passed = (ms: number) => vi.advanceTimersByTimeAsync(ms);

beforeEach(() => passed(10_000));

describe('long work', () => {
  it('goes on at once where nobody touches anything', async () => {
    const { over } = asked();
    await passed(0);
    expect(over()).toBe(true);
  });
  it.each(['pointerdown', 'keydown', 'wheel'])('waits a moment after %s, and again after the next', async (kind) => {
    page.dispatchEvent(new Event(kind));
    const { over } = asked();
    await passed(200);
    page.dispatchEvent(new Event(kind));
    await passed(200);
    expect(over()).toBe(false);
    await passed(150);
    expect(over()).toBe(true);
  });
  it('goes on after three seconds though the hand does not rest', async () => {
    page.dispatchEvent(new Event('wheel'));
    const { over } = asked();
    for (let t = 0; t < 3500; t += 100) {
      await passed(100);
      page.dispatchEvent(new Event('wheel'));
      if (t === 2000) expect(over()).toBe(false);
    }
    expect(over()).toBe(true);
  });
});
