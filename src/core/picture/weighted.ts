import { type Affine, applied, chromaMap, inverted } from './affine';
import type { Box } from './box';
import { blackPlanes, type Planes } from './planes';
import { coveredColumns } from './resample';
import { type Edge, indexFor } from './sample';
import { compiledSums, type Sums } from './weighted-kernel';

function plainSums(luma: number): Sums {
  const [y, u, v, chroma] = [luma, luma / 4, luma / 4, luma / 4].map((n) => new Float32Array(n));
  return { cover: new Uint32Array(luma), chroma, sums: [y, u, v], alpha: new Uint16Array(luma) };
}

/** Even rows of the frame that a stand can reach, by the corners of what it shows. */
function reachedRows({ left, top, right, bottom }: Box, ride: Affine, height: number): [number, number] {
  const back = inverted(ride);
  const ys = [top, bottom].flatMap((y) => [left, right].map((x) => applied(back, { x, y }).y));
  return [Math.max(0, Math.floor(Math.min(...ys))) & ~1, Math.min(height, (Math.ceil(Math.max(...ys)) + 2) & ~1)];
}

/** Sums of a layer's laid pictures, each pixel weighted by how much of the layer is there; chroma by its four pixels of luma. */
export class Weighted {
  readonly cover: Uint32Array;
  private readonly chroma: Float32Array;
  private readonly sums: Sums['sums'];
  private readonly alpha: Uint16Array;
  private readonly compiled: ReturnType<typeof compiledSums>;

  /** Sources are at most as large as `largest`. `plain` asks for the definition, with which the compiled passes must agree. */
  constructor(
    private readonly width: number,
    private readonly height: number,
    largest: Planes,
    plain = false,
  ) {
    this.compiled = plain ? null : compiledSums(width, height, largest.y.length);
    const { cover, chroma, sums, alpha } = this.compiled?.sums ?? plainSums(width * height);
    this.cover = cover;
    this.chroma = chroma;
    this.sums = sums;
    this.alpha = alpha;
  }

  /**
   * Lays a source through `map` with the coverage `plane`, which is 0 outside its box, seen through `ride`; source pixels beyond the edge
   * are not there unless mirrored.
   */
  lay(source: Planes, map: Affine, plane: Uint16Array, box: Box, ride: Affine, edge: Edge): void {
    const rows = reachedRows(box, ride, this.height);
    if (rows[1] <= rows[0]) return;
    const { left, top, right, bottom } = box;
    const inBox = { ...ride, c: ride.c - left, f: ride.f - top };
    const reach = (y: number) => coveredColumns(inBox, y, right - left, bottom - top, this.width);
    if (this.compiled) {
      this.compiled.lay(source, map, plane, ride, rows, edge === 'mirror', reach);
      return;
    }
    this.layLuma(source, map, plane, ride, rows, reach, edge);
    this.layChroma(source, chromaMap(map), rows, edge);
  }

  private layLuma(
    { y: luma, width: sw, height: sh }: Planes,
    map: Affine,
    plane: Uint16Array,
    ride: Affine,
    rows: [number, number],
    reach: (row: number) => [number, number],
    edge: Edge,
  ): void {
    const { width, height, cover, alpha } = this;
    const [sum] = this.sums;
    const [column, line] = [indexFor(edge, sw), indexFor(edge, sh)];
    alpha.fill(0, rows[0] * width, rows[1] * width);
    for (let y = rows[0]; y < rows[1]; y++) {
      const [from, to] = reach(y);
      for (let x = from; x < to; x++) {
        const at = y * width + x;
        const ru = ride.a * (x + 0.5) + ride.b * (y + 0.5) + ride.c;
        const rv = ride.d * (x + 0.5) + ride.e * (y + 0.5) + ride.f;
        if (ru < 0 || rv < 0 || ru >= width || rv >= height) continue;
        const a = plane[(rv | 0) * width + (ru | 0)];
        if (a === 0) continue;
        const i = Math.floor(map.a * (x + 0.5) + map.b * (y + 0.5) + map.c);
        const j = Math.floor(map.d * (x + 0.5) + map.e * (y + 0.5) + map.f);
        if (edge === 'clear' && (i < 0 || j < 0 || i >= sw || j >= sh)) continue;
        alpha[at] = a;
        cover[at] += a;
        sum[at] += a * luma[line(j) * sw + column(i)];
      }
    }
  }

  private layChroma({ u: blue, v: red, width, height }: Planes, map: Affine, rows: [number, number], edge: Edge): void {
    const { alpha, chroma } = this;
    const [, sumU, sumV] = this.sums;
    const [half, sw, sh] = [this.width >> 1, width >> 1, height >> 1];
    const [column, line] = [indexFor(edge, sw), indexFor(edge, sh)];
    for (let y = rows[0] >> 1; y < rows[1] >> 1; y++)
      for (let x = 0; x < half; x++) {
        const at = 2 * y * this.width + 2 * x;
        const a = alpha[at] + alpha[at + 1] + alpha[at + this.width] + alpha[at + this.width + 1];
        if (a === 0) continue;
        const i = column(Math.floor(map.a * (x + 0.5) + map.b * (y + 0.5) + map.c));
        const j = line(Math.floor(map.d * (x + 0.5) + map.e * (y + 0.5) + map.f));
        const k = y * half + x;
        chroma[k] += a;
        sumU[k] += a * blue[j * sw + i];
        sumV[k] += a * red[j * sw + i];
      }
  }

  mean(): Planes {
    const out = blackPlanes(this.width, this.height);
    const { cover, chroma, sums } = this;
    for (let i = 0; i < cover.length; i++) if (cover[i] > 0) out.y[i] = sums[0][i] / cover[i] + 0.5;
    for (let i = 0; i < chroma.length; i++) {
      if (chroma[i] === 0) continue;
      out.u[i] = sums[1][i] / chroma[i] + 0.5;
      out.v[i] = sums[2][i] / chroma[i] + 0.5;
    }
    return out;
  }
}
