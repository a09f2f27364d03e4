import jsQR from 'jsqr';
import { describe, expect, it } from 'vitest';
import { qrOf, readQr } from './qr';

/** A QR code as a camera might see it: turned, grey, with noise, `module` pixels a square. */
function seen(text: string, module: number, turn: number) {
  const dark = qrOf(text);
  const size = dark.length;
  const side = Math.ceil((size + 16) * module * 1.3);
  const data = new Uint8ClampedArray(side * side * 4);
  const [sin, cos] = [Math.sin(turn), Math.cos(turn)];
  let noise = 7;
  for (let y = 0; y < side; y++)
    for (let x = 0; x < side; x++) {
      const [dx, dy] = [x - side / 2, y - side / 2];
      const column = Math.floor((dx * cos + dy * sin) / module + size / 2);
      const row = Math.floor((dy * cos - dx * sin) / module + size / 2);
      const inside = column >= 0 && row >= 0 && column < size && row < size;
      noise = (noise * 48271) % 2147483647;
      const light = (inside && dark[row][column] ? 60 : 190) + (noise % 30);
      data.set([light, light, light, 255], (y * side + x) * 4);
    }
  return { data, width: side, height: side };
}

describe('a QR code', () => {
  const text = `http://192.168.1.20:3000/devices#${'MZXW6-YTBOI-'.repeat(18)}A`;
  it.each([
    [4, 0],
    [4, 0.2],
    [6, 1.2],
    [12, 1.5],
  ])('is read again, %s pixels a square, turned by %s', (module, turn) => {
    expect(readQr(seen(text, module, turn))).toBe(text);
  });

  it('is what another library reads', () => {
    const { data, width, height } = seen(text, 4, 0);
    expect(jsQR(data, width, height)?.data).toBe(text);
  });

  it('is not seen where there is none', () => {
    const data = new Uint8ClampedArray(200 * 200 * 4).fill(128);
    expect(readQr({ data, width: 200, height: 200 })).toBeNull();
  });
});
