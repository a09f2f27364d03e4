import { describe, expect, it } from 'vitest';
import { profileOf } from './probe';

describe('the profile of a file that is not decoded', () => {
  it('is told by the number in its codec string (RFC 6381; ITU-T H.264 annex A, H.265 annex A)', () => {
    expect(profileOf('avc1.7A001F')).toBe(', profile High 4:2:2');
    expect(profileOf('avc1.6e0032')).toBe(', profile High 10');
    expect(profileOf('avc3.F40028')).toBe(', profile High 4:4:4 Predictive');
    expect(profileOf('hvc1.2.4.L120.B0')).toBe(', profile Main 10');
    expect(profileOf('hev1.A4.1.H150')).toBe(', profile Range Extensions');
  });
  it('is left out where it is not known', () => {
    expect(profileOf(null)).toBe('');
    expect(profileOf('ap4h')).toBe('');
    expect(profileOf('avc1.990000')).toBe('');
  });
});
