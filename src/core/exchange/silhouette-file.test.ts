import { execFileSync } from 'node:child_process';
import { describe, expect, it } from 'vitest';
import { readSilhouetteFile, silhouetteFile } from './silhouette-file';

const [W, H] = [13, 6];
const frames = [3, 40, 77].map((seed) => {
  const bits = new Uint8Array(Math.ceil((W * H) / 8));
  for (let i = 0; i < W * H; i++) if ((i * seed) % 7 < 3) bits[i >> 3] |= 1 << (i & 7);
  return bits;
});
const figure = { width: W, height: H, times: [0, 0.04, 0.0801], frames };

describe('where somebody is in a take, as a file', () => {
  it('comes back as it was', () => {
    expect(readSilhouetteFile(silhouetteFile(figure))).toEqual(figure);
  });

  it('is read by ffmpeg’s PBM reader (Netpbm P4): black where they are', () => {
    const file = silhouetteFile({ ...figure, times: [0], frames: frames.slice(0, 1) });
    const args = ['-v', 'error', '-f', 'pbm_pipe', '-i', '-', '-pix_fmt', 'gray', '-f', 'rawvideo', '-'];
    const grey = execFileSync('ffmpeg', args, { input: file });
    expect(grey.length).toBe(W * H);
    for (let i = 0; i < W * H; i++) expect(grey[i]).toBe((frames[0][i >> 3] >> (i & 7)) & 1 ? 0 : 255);
  });

  it('is refused in a sentence when it is something else, breaks off or is empty', () => {
    const whole = silhouetteFile(figure);
    for (const bytes of [new TextEncoder().encode('P5\n3 3\n255\n'), whole.subarray(0, whole.length - 2), new Uint8Array(0)])
      expect(() => readSilhouetteFile(bytes)).toThrow(/file of where somebody is in a take/);
  });
});
