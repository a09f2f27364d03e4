import { readFileSync, writeFileSync } from 'node:fs';
import { cleanPlate, cutOut, makeBackdrop } from '@/core/measure';
import { blackPlanes, planesOver } from '@/core/picture';
import { overlap } from '@/core/staged';
import { SCENES, person } from './tmp-gen';
const [W, H] = [640, 360], S = (W * H * 3) / 2;
const raw = (n: string) => { const b = new Uint8Array(readFileSync(`/tmp/cutq/${n}.yuv`)); return Array.from({ length: b.length / S }, (_, f) => planesOver(b.slice(f * S, (f + 1) * S), W, H)); };
const some = (list: ReturnType<typeof raw>, n: number) => Array.from({ length: n }, (_, k) => list[Math.floor(((k + 0.5) * list.length) / n)]);
import { grow } from '@/core/measure';
function parts(alpha: Uint8Array, t: Float32Array) { const m = { width: W, height: H, data: Uint8Array.from(t, (v) => (v > 0.5 ? 1 : 0)) }; const o = grow(m, 3), i3 = grow(m, -3); let [en, ef, mn, mf, n] = [0, 0, 0, 0, 0]; for (let i = 0; i < t.length; i++) { const a = alpha[i] > 127 ? 1 : 0, b = m.data[i]; n += b; if (a && !b) o.data[i] ? en++ : ef++; if (!a && b) i3.data[i] ? mf++ : mn++; } return [en, ef, mn, mf].map((v) => (100 * v) / n); }
const br = [0, 0, 0, 0];
const sums: Record<string, number[]> = {};
for (const s of SCENES) {
  const walk = raw(`${s.name}-walk`), plate = raw(`${s.name}-plate`);
  const plates = { clean: cleanPlate(some(plate, 20), true), own: cleanPlate(some(walk, 20), false) };
  for (const [name, p] of Object.entries(plates)) {
    const b = makeBackdrop(p, 1);
    const out = [0, 12, 24, 36, 48].map((f) => { const m = cutOut(walk[f], b, { blur: { dx: 2, dy: 0 }, strokes: null }); if (f === 24) writeFileSync(`/tmp/cutq/${s.name}-${name}.gray`, m.alpha); const t = person(blackPlanes(W, H), s, f); if (name === (process.env.KIND ?? 'clean')) parts(m.alpha, t).forEach((v, k) => { br[k] += v / 5; }); return overlap(m.alpha, person(blackPlanes(W, H), s, f)); });
    const mean = out.reduce((a, c) => a + c) / out.length;
    (sums[name] ??= []).push(mean);
    if (name === (process.env.KIND ?? 'clean')) console.log('   extra near', br[0].toFixed(1), 'far', br[1].toFixed(1), 'missing near', br[2].toFixed(1), 'far', br[3].toFixed(1)), br.fill(0);
    console.log(s.name.padEnd(9), name.padEnd(6), out.map((v) => v.toFixed(3)).join(' '), mean.toFixed(3));
  }
}
for (const [n, l] of Object.entries(sums)) console.log(n, (l.reduce((a, c) => a + c) / l.length).toFixed(4));
