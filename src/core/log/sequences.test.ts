import { describe, expect, it } from 'vitest';
import { sequencesIn } from './sequences';

const named = (...names: string[]) => names.map((name) => ({ name }));

describe('files taken in together', () => {
  it('numbered pictures are one film in the order of their numbers, not of their names', () => {
    const [one, ...others] = sequencesIn(named('smoke_10.png', 'smoke_9.png', 'smoke_2.PNG', 'take 1.mp4'));
    expect(one).toEqual({ kind: 'sequence', name: 'smoke (3 pictures)', files: named('smoke_2.PNG', 'smoke_9.png', 'smoke_10.png') });
    expect(others).toEqual([{ kind: 'file', file: { name: 'take 1.mp4' } }]);
  });
  it('two of a kind, pictures of other names and numbered films stay by themselves', () => {
    const files = named('a1.png', 'a2.png', 'sign.png', 'clip1.mp4', 'clip2.mp4', 'clip3.mp4');
    expect(sequencesIn(files)).toEqual(files.map((file) => ({ kind: 'file', file })));
  });
  it('two rows at once are two films, told apart by name and by kind of picture', () => {
    const found = sequencesIn(named('rain001.jpg', 'snow1.jpg', 'rain002.jpg', 'snow2.jpg', 'rain003.jpg', 'snow3.jpg', 'rain001.webp'));
    expect(found.map((t) => (t.kind === 'sequence' ? t.name : t.file.name))).toEqual([
      'rain (3 pictures)',
      'snow (3 pictures)',
      'rain001.webp',
    ]);
  });
  it('names that are numbers alone are pictures', () => {
    expect(sequencesIn(named('1.png', '2.png', '3.png'))).toMatchObject([{ kind: 'sequence', name: 'Pictures (3 pictures)' }]);
  });
});
