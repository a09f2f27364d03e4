/**
 * `npm run faults -- --minutes N --seed S`: damaged files, killed browsers, full storage, two tabs, no network and cleared storage against
 * the running application. Prints a table of what was tried and what became of it; every failure is written as files that reproduce it
 * under `bench/faults/found/`. `--slice` is the short run of the tests; `--only` names parts: files, kills, starts, world.
 * A full run can be spread: `--skip FILES,KILLS` goes on after so many, and nothing is begun while the file of `--pause` exists.
 */

import { existsSync, readFileSync } from 'node:fs';
import { cpus, totalmem } from 'node:os';
import { parseArgs } from 'node:util';
import { unzipSync } from 'fflate';
import { withEmptyScore } from '../../scripts/chromium';
import { startServer } from '../../scripts/server';
import { emptyProject, type Project } from '../../src/core/document/index';
import { profileLike, startOn, withEmptyProject } from './browser';
import { damagedFiles } from './films';
import { firstStarts, kills } from './kills';
import { wholeFiles } from './sources';
import { Tally } from './tally';
import { worldFaults } from './world';

const { values } = parseArgs({
  options: {
    minutes: { type: 'string', default: '30' },
    seed: { type: 'string', default: '1' },
    only: { type: 'string', default: 'files,kills,starts,world' },
    files: { type: 'string', default: '10000' },
    kills: { type: 'string', default: '1000' },
    // Trials that an earlier part of the same run has done already.
    skip: { type: 'string', default: '0,0' },
    // While this file exists nothing is begun: the machine is needed for something else.
    pause: { type: 'string', default: '' },
    slice: { type: 'boolean', default: false },
    found: { type: 'string', default: 'bench/faults/found' },
  },
});
const seed = Number(values.seed);
const counts = values.slice
  ? { files: 40, kills: 4, starts: 2, world: 4 }
  : { files: Number(values.files), kills: Number(values.kills), starts: 60, world: 200 };
const only = values.only.split(',');
const tally = new Tally(values.found);
const server = await startServer();
const { url } = server;
const sources = wholeFiles('/tmp/ribbon-faults-sources');
const films = ['plain.mp4', 'fast.mp4', 'silent.mov'].map((name) => ({ name, bytes: sources.get(name) as Buffer }));

/** A profile in which the demo is open with a shot on its score, and that project as a file. */
async function template(): Promise<{ profile: string; zip: Buffer }> {
  const profile = profileLike(null);
  const browser = await startOn(profile);
  const { page } = browser;
  await withEmptyScore(page);
  await page.goto(`${url}/plan`);
  await page.getByText('1 filmed').nth(2).waitFor({ timeout: 90_000 });
  await page.getByRole('link', { name: 'Score', exact: true }).first().click();
  await page.getByRole('button', { name: 'Masked reveal' }).click();
  await page.getByTestId('shot-strip').first().waitFor({ timeout: 120_000 });
  await browser.close();
  return { profile, zip: await smallProject() };
}

/** A project of two small films and the demo's song with a move on its score, as its file. */
async function smallProject(): Promise<Buffer> {
  const browser = await startOn(profileLike(null));
  const { page } = browser;
  await withEmptyProject(page, url, emptyProject('small', 'Small'));
  await page.goto(`${url}/shoot`);
  const song = { name: 'song.m4a', mimeType: 'audio/mp4', buffer: readFileSync('public/demo/half-load.m4a') };
  await page
    .getByTestId('media-files')
    .setInputFiles([...films.map(({ name, bytes }) => ({ name, mimeType: 'video/mp4', buffer: bytes })), song]);
  await page.getByText('Song song.m4a').waitFor({ timeout: 60_000 });
  await page.goto(`${url}/score`);
  await page.getByRole('button', { name: 'Masked reveal' }).click();
  await page.getByTestId('shot-strip').first().waitFor({ timeout: 120_000 });
  await page.goto(`${url}/deliver`);
  const session = await page.context().newCDPSession(page);
  await session.send('Browser.setDownloadBehavior', { behavior: 'allow', downloadPath: '/tmp/ribbon-faults-sources' });
  await page.getByRole('button', { name: 'Save the project file' }).click();
  await page.getByText('is one file of').waitFor({ timeout: 30_000 });
  await page.waitForTimeout(1500);
  await browser.close();
  return readFileSync('/tmp/ribbon-faults-sources/small.zip');
}

const { profile, zip } = await template();
// What is made ready first does not count.
const until = Date.now() + Number(values.minutes) * 60_000;
const unpacked = unzipSync(zip);
const document = JSON.parse(Buffer.from(unpacked['project.json']).toString()) as Project;
delete unpacked['project.json'];
const ready = async () => {
  while (values.pause && existsSync(values.pause) && Date.now() < until) await new Promise((again) => setTimeout(again, 1000));
};
const limits = (count: number, skip = 0) => ({ from: seed * 100_000 + skip, count: count - skip, until, ready });
const [skipFiles, skipKills] = values.skip.split(',').map(Number);
const parts: Record<string, () => Promise<void>> = {
  files: () => damagedFiles(url, sources, { document, files: unpacked, zip }, limits(counts.files, skipFiles), tally),
  kills: () => kills(url, profile, films, limits(counts.kills, skipKills), tally),
  starts: () => firstStarts(url, limits(counts.starts), tally),
  world: () => worldFaults(url, films, limits(counts.world), tally),
};
// Files on one core; what is killed and the rest on the other.
const began = Date.now();
const run = (names: string[]) =>
  names.filter((n) => only.includes(n)).reduce((before, name) => before.then(parts[name]), Promise.resolve());
await Promise.all([run(['files']), run(['starts', 'world', 'kills'])]);
server.stop();
console.log(`\n${tally.table()}\n`);
console.log(
  `Seed ${seed}, ${((Date.now() - began) / 60_000).toFixed(0)} minutes, ${cpus().length} × ${cpus()[0].model}, ${Math.round(totalmem() / 2 ** 30)} GiB, ${new Date().toISOString().slice(0, 10)}.`,
);
if (tally.failures > 0) console.log(`${tally.failures} failures: see ${values.found}.`);
if (tally.tried === 0) console.log('Nothing was tried.');
process.exit(tally.failures > 0 || tally.tried === 0 ? 1 : 0);
