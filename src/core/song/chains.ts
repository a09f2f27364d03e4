import { mean } from './curves';

/** How much a chain's departure from the period costs: squared log ratio. */
const TIGHT = 1000;
/** No stroke counts more than this in a grid. */
const MOST = 2.5;

/** The chain of places with the most accent and the least departure from the period at each (Ellis 2007, section 4). */
export function bestChain(accents: Float32Array, period: Float32Array): number[] {
  const n = accents.length;
  if (n === 0) return [];
  const score = new Float64Array(n);
  const from = new Int32Array(n).fill(-1);
  const longest = period.reduce((a, b) => Math.max(a, b), 1);
  const logs = Float64Array.from({ length: Math.ceil(2 * longest) + 2 }, (_, gap) => Math.log(Math.max(1, gap)));
  for (let t = 0; t < n; t++) {
    const log = Math.log(period[t]);
    let best = 0;
    let at = -1;
    for (let u = Math.max(0, Math.round(t - 2 * period[t])); u <= Math.round(t - period[t] / 2); u++) {
      const off = logs[t - u] - log;
      const value = score[u] - TIGHT * off * off;
      if (value > best) {
        best = value;
        at = u;
      }
    }
    score[t] = accents[t] + best;
    from[t] = at;
  }
  let end = n - 1;
  for (let t = Math.max(0, n - 1 - Math.round(period[n - 1])); t < n; t++) if (score[t] > score[end]) end = t;
  const chain: number[] = [];
  for (let t = end; t >= 0; t = from[t]) chain.push(t);
  return chain.reverse();
}

/** A grid of one period: where it may begin, best first, and how much accent it gathers; `usual` over all places it might begin. */
export interface GridFit {
  period: number;
  value: number;
  usual: number;
  phases: { at: number; value: number }[];
}

/** The rigid grid between `low` and `high` that gathers the most accent, its period within `around` (a share) of the one given. */
export function bestGrid(accents: Float32Array, period: number, low: number, high: number, around = 0.012): GridFit {
  const beats = Math.max(4, (high - low) / period);
  const step = 0.12 / beats;
  const gathered = (length: number, first: number): number => {
    let [sum, count] = [0, 0];
    for (let t = first; t < high; t += length) {
      if (t < low) continue;
      const i = t | 0;
      const share = t - i;
      sum += Math.min(MOST, accents[i] * (1 - share) + (accents[i + 1] ?? 0) * share);
      count++;
    }
    return count ? sum / count : 0;
  };
  let best = { value: -1, period, at: 0 };
  const offer = (length: number, at: number) => {
    const value = gathered(length, low + at);
    if (value > best.value) best = { value, period: length, at };
  };
  for (let r = -around; r <= around; r += step) for (let at = 0; at < period * (1 + r); at++) offer(period * (1 + r), at);
  for (let h = 0.5, k = step / 2; h > 0.04; h /= 2, k /= 2) {
    const { period: length, at } = best;
    for (const x of [-1, 0, 1]) for (const y of [-1, 0, 1]) offer(length * (1 + x * k), at + y * h);
  }
  const places = Float64Array.from({ length: Math.ceil(best.period) }, (_, at) => gathered(best.period, low + at));
  const apart = (a: number, b: number) => Math.min(Math.abs(a - b), best.period - Math.abs(a - b));
  const peaks: number[] = [];
  for (const i of [...places.keys()].sort((a, b) => places[b] - places[a]))
    if (peaks.length < 3 && peaks.every((j) => apart(i, j) > 0.17 * best.period)) peaks.push(i);
  const phases = peaks.map((i) => {
    let [at, value] = [i, places[i]];
    for (let h = 0.5; h > 0.04; h /= 2)
      for (const by of [-h, h]) {
        const other = gathered(best.period, low + at + by);
        if (other > value) [at, value] = [at + by, other];
      }
    return { at: low + at, value };
  });
  return { period: best.period, value: best.value, usual: mean(places), phases };
}
