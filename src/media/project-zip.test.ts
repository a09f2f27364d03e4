import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import type { Media } from '@/core/document';
import { stagedMedia } from '@/core/staged';
import { readEntry, readProjectZip, writeProjectZip } from './project-zip';

const scratch = mkdtempSync(join(tmpdir(), 'ribbon-zip-'));
afterAll(() => rmSync(scratch, { recursive: true, force: true }));

/** Bytes that look like nothing, the same for the same seed. */
function noise(length: number, seed: number): Uint8Array<ArrayBuffer> {
  const out = new Uint8Array(length);
  let state = seed;
  for (let i = 0; i < length; i++) {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    out[i] = state >>> 24;
  }
  return out;
}

/** A film with bytes in it that a zip file's own parts begin with (APPNOTE.TXT 4.3). */
function withSignature(signature: number, seed: number): Uint8Array<ArrayBuffer> {
  const film = noise(300_000, seed);
  for (const at of [0, 7, 65_530, 150_000, 299_990]) film.set([0x50, 0x4b, signature & 255, signature >> 8], at);
  return film;
}

const SIGNATURES = [0x0201, 0x0403, 0x0807, 0x0605, 0x0606];
const id = (i: number) => `${i}`.padStart(24, '0');
const films = new Map(SIGNATURES.map((signature, i) => [id(i), withSignature(signature, i + 1)]));
const media = [...films].map(([name, bytes]): Media => ({ ...stagedMedia(name), bytes: bytes.length }));
const project = { version: 8, name: 'Signatures', media };

/** A project file of some films, as its bytes. */
async function packed(
  of: { media: readonly Media[] } = project,
  there = films,
): Promise<{ bytes: Uint8Array<ArrayBuffer>; missing: string[] }> {
  const pieces: BlobPart[] = [];
  const out = new WritableStream<Uint8Array>({ write: (chunk) => void pieces.push(chunk.slice() as Uint8Array<ArrayBuffer>) });
  const open = async (name: string) => {
    const found = there.get(name);
    if (!found) throw new Error('gone');
    return new File([found], name);
  };
  const missing = await writeProjectZip(of, open, out, () => undefined);
  return { bytes: new Uint8Array(await new Blob(pieces).arrayBuffer()), missing };
}

const read = (bytes: Uint8Array<ArrayBuffer>) => readProjectZip(new Blob([bytes]), () => undefined);

async function bytesOf(zip: Awaited<ReturnType<typeof read>>, name: string): Promise<Uint8Array> {
  const pieces: BlobPart[] = [];
  const found = zip.whole.get(name);
  if (!found) throw new Error(`${name} is not whole`);
  await readEntry(found.entry, (chunk) => void pieces.push(chunk.slice() as Uint8Array<ArrayBuffer>));
  return new Uint8Array(await new Blob(pieces).arrayBuffer());
}

describe('a project file', () => {
  it('gives films that hold a zip file’s own signatures back byte for byte', async () => {
    const zip = await read((await packed()).bytes);
    for (const [name, film] of films) expect(Buffer.compare(await bytesOf(zip, name), film)).toBe(0);
    expect(zip.document).toMatchObject({ name: 'Signatures', files: media.map((m) => ({ id: m.id, bytes: m.bytes })) });
  });

  it('is read by other programs: Python’s zipfile and unzip', async () => {
    const file = join(scratch, 'whole.zip');
    writeFileSync(file, (await packed()).bytes);
    const script = `import zipfile, hashlib, json, sys
z = zipfile.ZipFile(sys.argv[1])
assert z.testzip() is None
for f in json.loads(z.read('project.json'))['files']:
    data = z.read('media/' + f['id'])
    assert len(data) == f['bytes'] and hashlib.sha256(data).hexdigest() == f['sha256'], f
print(len(z.namelist()))`;
    expect(execFileSync('python3', ['-c', script, file]).toString().trim()).toBe(`${SIGNATURES.length + 1}`);
    expect(execFileSync('unzip', ['-tq', file]).toString()).toContain('No errors detected');
  });

  it('names a damaged film, and gives all others', async () => {
    const { bytes } = await packed();
    const at = Buffer.from(bytes).indexOf(Buffer.from(films.get(id(2)) as Uint8Array));
    bytes[at + 1000] ^= 1;
    const zip = await read(bytes);
    expect([...zip.whole.keys()]).toEqual([0, 1, 3, 4].map(id));
  });

  it('leaves out what is gone, and says so', async () => {
    const some = new Map([...films].slice(1));
    const { bytes, missing } = await packed(project, some);
    expect(missing).toEqual([media[0].name]);
    expect([...(await read(bytes)).whole.keys()]).toEqual([...some.keys()]);
  });

  it.each([
    ['milk, eggs', Buffer.from('milk, eggs')],
    ['nothing', Buffer.alloc(0)],
  ])('is refused with a sentence where it is none: %s', async (_, bytes) => {
    await expect(read(new Uint8Array(bytes))).rejects.toThrow('This file is not a project file, or it is damaged. Nothing was changed.');
  });

  it('cut anywhere is refused with a sentence, for its directory is at its end', async () => {
    const { bytes } = await packed();
    for (const share of [0.1, 0.5, 0.9, 0.999]) {
      await expect(read(bytes.slice(0, Math.floor(share * bytes.length)))).rejects.toThrow(/Nothing was changed\.$/);
    }
  });

  it('written by another program, deflated, is read; one that unfolds to far more than it is holds no film', async () => {
    const script = `import zipfile, json, sys
z = zipfile.ZipFile(sys.argv[1], 'w', zipfile.ZIP_DEFLATED)
z.writestr('media/000000000000000000000001', bytes(range(256)) * 40)
z.writestr('media/000000000000000000000002', bytes(200000000))
z.writestr('project.json', json.dumps({'version': 8}))
z.close()`;
    const file = join(scratch, 'bomb.zip');
    execFileSync('python3', ['-c', script, file]);
    const zip = await read(new Uint8Array(await import('node:fs').then((fs) => fs.readFileSync(file))));
    expect([...zip.whole.keys()]).toEqual(['000000000000000000000001']);
    expect((await bytesOf(zip, '000000000000000000000001')).length).toBe(10_240);
  });
});
