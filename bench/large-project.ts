/**
 * A project file of 5 GB, written and opened again as the application does it: `npx tsx bench/large-project.ts [GIGABYTES]`. Prints how fast,
 * beside `cp` of as many bytes in the same run, and the most memory beyond an empty process.
 */
import { execFileSync } from 'node:child_process';
import {
  closeSync,
  createReadStream,
  createWriteStream,
  mkdtempSync,
  openSync,
  readSync,
  rmSync,
  statSync,
  truncateSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable, Writable } from 'node:stream';
import { stagedMedia } from '../src/core/staged/index';
import { readProjectZip, writeProjectZip } from '../src/media/project-zip';

const bytes = Math.round(Number(process.argv[2] ?? 5) * 1e9);
const folder = mkdtempSync(join(tmpdir(), 'ribbon-large-'));
const [film, zip] = [join(folder, 'film'), join(folder, 'project.zip')];
// A sparse file: as long as it says, and nothing on the disk; with a zip's own signatures on either side of 4 GiB.
writeFileSync(film, 'PK\x03\x04 at the start');
truncateSync(film, bytes);
const id = '0123456789abcdef01234567';
const project = { version: 8, media: [{ ...stagedMedia(id), bytes }] };

/** A file on the disk as a Blob; Node's own counts no further than 4 GiB. */
function onDisk(path: string, from = 0, to = statSync(path).size): File {
  const read = () => {
    const bytes = Buffer.alloc(to - from);
    const handle = openSync(path, 'r');
    readSync(handle, bytes, 0, bytes.length, from);
    closeSync(handle);
    return bytes;
  };
  return {
    size: to - from,
    slice: (a = 0, b = to - from) => onDisk(path, from + a, Math.min(to, from + b)),
    arrayBuffer: async () => read().buffer.slice(0, to - from),
    stream: () => Readable.toWeb(createReadStream(path, { start: from, end: to - 1 })),
  } as unknown as File;
}

let most = 0;
const idle = process.memoryUsage().rss;
const watching = setInterval(() => {
  most = Math.max(most, process.memoryUsage().rss - idle);
}, 50);
const timed = async (work: () => Promise<unknown>) => {
  const began = performance.now();
  await work();
  return (performance.now() - began) / 1000;
};
const writing = await timed(() => {
  const out = Writable.toWeb(createWriteStream(zip)) as unknown as WritableStream<Uint8Array>;
  return writeProjectZip(
    project,
    async () => onDisk(film),
    out,
    () => undefined,
  );
});
let whole = 0;
const opening = await timed(async () => {
  const read = await readProjectZip(onDisk(zip), () => undefined);
  whole = read.whole.get(id)?.bytes ?? 0;
});
clearInterval(watching);
if (whole !== bytes) throw new Error(`${whole} of ${bytes} bytes came back.`);
const listed = execFileSync('python3', [
  '-c',
  `import zipfile,sys; print(zipfile.ZipFile(sys.argv[1]).getinfo('media/${id}').file_size)`,
  zip,
]);
if (Number(listed) !== bytes) throw new Error(`Python reads ${listed}.`);
const copying = await timed(async () => execFileSync('cp', ['--sparse=never', zip, join(folder, 'copy')]));
rmSync(folder, { recursive: true, force: true });
const speed = (seconds: number) => `${(bytes / 1e6 / seconds).toFixed(0)} MB/s, ${(copying / seconds).toFixed(2)}× as fast as cp`;
console.log(
  `${(bytes / 1e9).toFixed(1)} GB: written at ${speed(writing)}; checked at ${speed(opening)}; at most ${(most / 1e6).toFixed(0)} MB of memory beyond the idle process.`,
);
