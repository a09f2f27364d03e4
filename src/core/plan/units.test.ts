import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readAperture, readIso, readLength, readShutter, showLength } from './units';

describe('lengths in the user’s words', () => {
  it.each([
    ['2.4 m', 2.4],
    ['2,4m', 2.4],
    ['240 cm', 2.4],
    ['2400mm', 2.4],
    ['7\'10"', 7 * 0.3048 + 10 * 0.0254],
    ['7′10½″', 7 * 0.3048 + 10.5 * 0.0254],
    ['7 ft 10 1/2 in', 7 * 0.3048 + 10.5 * 0.0254],
    ['94"', 94 * 0.0254],
    ["8'", 8 * 0.3048],
    ['6 feet', 6 * 0.3048],
    ['-1.2 m', -1.2],
    ['−3′', -3 * 0.3048],
  ])('%s', (text, metres) => {
    expect(readLength(text, 'metres')).toBeCloseTo(metres, 9);
    expect(readLength(text, 'feet')).toBeCloseTo(metres, 9);
  });

  it('a bare number is in the unit shown', () => {
    expect(readLength('2.5', 'metres')).toBeCloseTo(2.5, 9);
    expect(readLength('2 1/2', 'feet')).toBeCloseTo(2.5 * 0.3048, 9);
  });

  it.each(['', 'far', '2.4.1 m', '3 m 2', "7'x", '1e3', 'NaN', '2 kg', "'", '1/0'])('nonsense is not taken: %s', (text) => {
    expect(readLength(text, 'metres')).toBeNull();
    expect(readLength(text, 'feet')).toBeNull();
  });

  it('what is shown reads back, to a centimetre or half an inch', () => {
    fc.assert(
      fc.property(fc.double({ min: -50, max: 50, noNaN: true }), (length) => {
        expect(Math.abs((readLength(showLength(length, 'metres'), 'metres') ?? 99) - length)).toBeLessThan(0.0051);
        expect(Math.abs((readLength(showLength(length, 'feet'), 'feet') ?? 99) - length)).toBeLessThan(0.00636);
      }),
    );
    expect(showLength(2.4, 'feet')).toBe('7′10½″');
    expect(showLength(1.828, 'feet')).toBe('6′0″');
    expect(showLength(Number.POSITIVE_INFINITY, 'metres')).toBe('∞');
  });
});

describe('camera settings in the camera’s own steps', () => {
  it.each([
    ['f/8', 8],
    ['F5.6', 5.6],
    ['2,8', 2.8],
    ['f/ 11', 11],
    ['3', 3.2],
    ['f/7.5', 7.1],
  ])('aperture %s', (text, value) => expect(readAperture(text)).toBe(value));
  it.each(['', '0', 'f/0.1', '99', 'wide', '-4'])('no aperture: %s', (text) => expect(readAperture(text)).toBeNull());

  it.each([
    ['1/50', 0.02],
    ['50', 0.02],
    ['0.02 s', 0.02],
    ['180°', 0.02],
    ['1/48 s', 1 / 48],
    ['2 s', 2],
  ])('shutter %s', (text, value) => expect(readShutter(text, 25)).toBeCloseTo(value, 9));
  it.each(['', '1/0', 'slow', '-1/50', '50°°', '99 s'])('no shutter: %s', (text) => expect(readShutter(text, 25)).toBeNull());

  it('ISO', () => {
    expect(readIso('ISO 800')).toBe(800);
    expect(readIso('64')).toBe(64);
    for (const text of ['', '5', '12.5', 'high', '9999999']) expect(readIso(text)).toBeNull();
  });
});
