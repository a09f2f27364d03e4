import { clamp, type Unit } from '../units';
import { toRgbMatrix } from './colour';
import { type ColourTable, type Rgb, tableOf } from './colour-table';

/** How a file wider than BT.709 is coded: its transfer, primaries and matrix. */
export interface WideColour {
  /** 'pq' and 'hlg' of ITU-R BT.2100; 'sdr' for a display of BT.1886. */
  transfer: 'pq' | 'hlg' | 'sdr';
  primaries: 'bt2020' | 'p3' | 'bt709';
  matrix: 'bt2020' | 'bt709' | 'bt601';
  fullRange: boolean;
}

/** Linear light to linear light of BT.709 primaries: ITU-R BT.2087-0 for BT.2020; for P3 with D65 from the primaries of SMPTE EG 432-1. */
const TO_709 = {
  bt2020: [1.6605, -0.5876, -0.0728, -0.1246, 1.1329, -0.0083, -0.0182, -0.1006, 1.1187],
  p3: [1.2249, -0.2247, 0, -0.042, 1.0419, 0, -0.0197, -0.0786, 1.0979],
  bt709: [1, 0, 0, 0, 1, 0, 0, 0, 1],
} as const;

const [M1, M2, C1, C2, C3] = [2610 / 16384, (2523 / 4096) * 128, 3424 / 4096, (2413 / 4096) * 32, (2392 / 4096) * 32];

/** ITU-R BT.2100-2 table 4: PQ signal 0..1 to display light in cd/m², 0..10000. */
export function pqToNits(signal: Unit): number {
  const p = Math.max(0, signal) ** (1 / M2);
  return 10_000 * (Math.max(0, p - C1) / (C2 - C3 * p)) ** (1 / M1);
}

/** The inverse of `pqToNits`. */
export function nitsToPq(nits: number): Unit {
  const p = (Math.max(0, nits) / 10_000) ** M1;
  return ((C1 + C2 * p) / (1 + C3 * p)) ** M2;
}

const HLG_A = 0.17883277;
const HLG_B = 1 - 4 * HLG_A;
const HLG_C = 0.5 - HLG_A * Math.log(4 * HLG_A);

/** ITU-R BT.2100-2 table 5: HLG signal 0..1 to scene light 0..1. */
export function hlgToScene(signal: Unit): Unit {
  return signal <= 0.5 ? (signal * signal) / 3 : (Math.exp((signal - HLG_C) / HLG_A) + HLG_B) / 12;
}

/** The brightest that is told apart, and diffuse white on the screens of both worlds (ITU-R BT.2408-7, 203 cd/m²). */
const PEAK = 1000;
const WHITE = 203;

/** ITU-R BT.2390-11 section 5.4.1: light up to 1000 cd/m² drawn in to what a screen of 203 shows; dark and middle stay. */
export function toneMapped(nits: number): number {
  const top = nitsToPq(PEAK);
  const e = Math.min(1, nitsToPq(nits) / top);
  const most = nitsToPq(WHITE) / top;
  const knee = 1.5 * most - 0.5;
  if (e < knee) return nits;
  const t = (e - knee) / (1 - knee);
  const p = (2 * t ** 3 - 3 * t ** 2 + 1) * knee + (t ** 3 - 2 * t ** 2 + t) * (1 - knee) + (-2 * t ** 3 + 3 * t ** 2) * most;
  return pqToNits(p * top);
}

/** Display light, 1 being white, of R'G'B' as it is coded. */
function lightOf(rgb: Rgb, transfer: WideColour['transfer']): Rgb {
  if (transfer === 'sdr') return rgb.map((v) => Math.max(0, v) ** 2.4) as Rgb;
  let nits: Rgb;
  if (transfer === 'pq') nits = rgb.map(pqToNits) as Rgb;
  else {
    const scene = rgb.map((v) => hlgToScene(clamp(v, 0, 1))) as Rgb;
    const luma = 0.2627 * scene[0] + 0.678 * scene[1] + 0.0593 * scene[2];
    // The system gamma of a display of 1000 cd/m² (table 5).
    nits = scene.map((v) => PEAK * luma ** 0.2 * v) as Rgb;
  }
  const brightest = Math.max(...nits, 1e-6);
  // All three by the same factor, so that no hue turns.
  const k = toneMapped(brightest) / brightest / WHITE;
  return nits.map((v) => v * k) as Rgb;
}

/** The table that brings a wide file's coded values to BT.709 limited range for a screen of BT.1886. */
export function wideTable(wide: WideColour): ColourTable {
  const m = TO_709[wide.primaries];
  return tableOf((rgb) => {
    const light = lightOf(rgb, wide.transfer);
    for (let c = 0; c < 3; c++) rgb[c] = clamp(m[3 * c] * light[0] + m[3 * c + 1] * light[1] + m[3 * c + 2] * light[2], 0, 1) ** (1 / 2.4);
  }, toRgbMatrix(wide));
}
