import { describe, expect, it } from 'vitest';
import { fromCell, toCsv } from './csv';
import { entryFile, fileSums, projectDocument, withFileRenamed } from './project-file';

describe('the document of a project file', () => {
  const sum = { id: 'a1', bytes: 3, sha256: '0'.repeat(64) };

  it('carries the sums of its files, and those of no form are left out', () => {
    const text = projectDocument({ name: 'x' }, [sum]);
    expect([...fileSums(JSON.parse(text)).values()]).toEqual([sum]);
    expect(fileSums({ files: [sum, { ...sum, bytes: -1 }, { ...sum, sha256: 'x' }, null, 7] }).size).toBe(1);
    for (const none of [null, 3, {}, { files: 'x' }]) expect(fileSums(none).size).toBe(0);
  });

  it('takes only names that lead nowhere else', () => {
    expect(entryFile('media/0123456789abcdef')).toBe('0123456789abcdef');
    for (const name of [
      'media/../x',
      'media/ABCDEF01',
      'media/0123',
      'media/0123456789abcdef/x',
      'project.json',
      '/media/0123456789abcdef',
    ])
      expect(entryFile(name)).toBeNull();
  });

  it('renames a file wherever it stands, and nothing else', () => {
    const before = { media: [{ id: 'a' }, { id: 'b' }], takes: [{ mediaId: 'a', note: 'an a' }], n: 1, none: null };
    expect(withFileRenamed(before, 'a', 'c')).toEqual({
      media: [{ id: 'c' }, { id: 'b' }],
      takes: [{ mediaId: 'c', note: 'an a' }],
      n: 1,
      none: null,
    });
    expect(before.media[0].id).toBe('a');
  });
});

describe('cells of a table', () => {
  it.each(['=1+1', ' =1+1', '\n=1+1', '\t@x', '  +49 30', '\r\n-cmd', '=HYPERLINK("x")'])(
    '%j is no formula, and is read back as it was',
    (text) => {
      const [, cell] = /^"?([\s\S]*?)"?\r\n$/.exec(toCsv([[text]])) ?? [];
      const plain = cell.replaceAll('""', '"');
      expect(plain.startsWith("'")).toBe(true);
      expect(fromCell(plain)).toBe(text);
    },
  );

  it('numbers and plain text stay as they are', () => {
    for (const text of ['-3.5', '+7', 'a = b', "'quoted'"]) {
      expect(toCsv([[text]])).toBe(`${text}\r\n`);
      expect(fromCell(text)).toBe(text);
    }
  });
});
