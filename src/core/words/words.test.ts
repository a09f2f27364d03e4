import { describe, expect, it } from 'vitest';
import { messageOf, say, sayIn } from '.';

describe('what is said', () => {
  it('is English where no other language is known, values in their places', () => {
    expect(say`Nothing is missing.`).toBe('Nothing is missing.');
    expect(say`${3} of ${'“a.mp4”'}`).toBe('3 of “a.mp4”');
    expect(say`It costs {0} and ${5}.`).toBe('It costs {0} and 5.');
  });

  it('is what the catalogue has for it, its values in any order and as often as it likes', () => {
    const tell = sayIn({ 'Take {0} lasts {1} s.': '{1} s: take {0}, {1} s', 'Stop filming': 'Halt' });
    expect(tell`Take ${2} lasts ${7.5} s.`).toBe('7.5 s: take 2, 7.5 s');
    expect(tell`Stop filming`).toBe('Halt');
    expect(tell`Go on with ${'it'}`).toBe('Go on with it');
  });

  it('keeps what no value stands for, rather than leave a gap', () => {
    expect(sayIn({ '{0} px': '{0} of {4} px' })`${1} px`).toBe('1 of {4} px');
  });

  it('is named by its English', () => {
    expect(messageOf(['', ' and ', '.'])).toBe('{0} and {1}.');
    expect(messageOf(['Stop'])).toBe('Stop');
  });
});
