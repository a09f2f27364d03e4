import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { networkInterfaces } from 'node:os';
import { join } from 'node:path';
import { expect, type Page } from '@playwright/test';
import { browserOf, copyOf, knocks, test } from './demo';
import { downloadBy, ffmpeg, ffprobe, greyFrame, kept, layReveal, openDemo, press, saved, scratch, stage, startEmpty } from './helpers';
import { cutStored, files, film, renameStored, stored, toLog, withZipParts, X264 } from './stored';

const alerts = (page: Page) => page.getByRole('alert');
test('a project file comes whole into a fresh browser; a damaged one names its film, and the film pointed to heals it', async ({
  page,
  demoProfile,
}, info) => {
  const plain = withZipParts(film('signatures.mp4', 30));
  const other = withZipParts(film('other.mp4', 60));
  await startEmpty(page);
  await toLog(page);
  await files(page).setInputFiles([plain, other]);
  await expect.poll(async () => (await kept(page)).takes.length, { timeout: 60_000 }).toBe(2);
  const before = await kept(page);
  await press(page, stage(page, 'Deliver'));
  const zip = await downloadBy(page, /Save the project file/, 'signatures.zip');
  expect(execFileSync('unzip', ['-tq', zip]).toString()).toContain('No errors detected');

  const fresh = await browserOf(copyOf(demoProfile), info);
  const there = await fresh.newPage();
  await there.goto('/shoot');
  await expect(files(there)).toBeAttached({ timeout: 30_000 });
  await there.getByTestId('project-file').setInputFiles(zip);
  await expect(there.getByRole('button', { name: /New project/ })).toBeVisible({ timeout: 30_000 });
  const sizes = await stored(there);
  for (const { id, bytes } of before.media) expect(sizes[id]).toBe(bytes);

  // One byte of one film is another: everything else opens, and that film is marked missing.
  const bytes = readFileSync(zip);
  const at = bytes.indexOf(readFileSync(other).subarray(0, 2000));
  bytes[at + 1500] ^= 0xff;
  for (const { id } of before.media) await cutStored(there, id, null);
  await there.getByTestId('project-file').setInputFiles({ name: 'damaged.zip', mimeType: 'application/zip', buffer: bytes });
  await expect(there.getByText(/1 of its 2 files is damaged or not in it: “other.mp4”/)).toBeVisible({ timeout: 30_000 });
  const missing = there.getByTestId('missing-files');
  await expect(missing).toContainText('other.mp4');
  await expect(missing).not.toContainText('signatures.mp4');
  // Another film is not taken for it without asking.
  await press(there, missing.getByRole('button', { name: 'Point to the file' }));
  await there.getByTestId('missing-file').setInputFiles(plain);
  await expect(there.getByRole('alertdialog')).toContainText('is not the file that is missing');
  await there.getByRole('button', { name: 'Choose another file' }).click();
  await there.getByTestId('missing-file').setInputFiles(other);
  await expect(missing).toHaveCount(0, { timeout: 30_000 });
  await fresh.close();
});

test('a stored film that was cut short is healed by taking the original in again', async ({ page }) => {
  const whole = film('whole-again.mp4', 90);
  await startEmpty(page);
  await toLog(page);
  await files(page).setInputFiles(whole);
  await expect.poll(async () => (await kept(page)).takes.length).toBe(1);
  const [{ id, bytes }] = (await kept(page)).media;
  await cutStored(page, id, 1000);
  await page.reload();
  await expect(page.getByTestId('missing-files')).toContainText('whole-again.mp4');
  await files(page).setInputFiles(whole);
  await expect(page.getByText('is in the project already')).toBeVisible({ timeout: 30_000 });
  expect((await stored(page))[id]).toBe(bytes);
  await page.reload();
  await expect(files(page)).toBeAttached();
  await expect(page.getByTestId('missing-files')).toHaveCount(0);
});

test('two films of one name are two takes, the same film twice is one, and one bad file does not stop the others', async ({ page }) => {
  const [first, second] = [readFileSync(film('a.mp4', 10)), readFileSync(film('b.mp4', 200))];
  // Not the same, though their size, beginning, middle and end are.
  const long = readFileSync(film('c.mp4', 120, 12, '1280x720'));
  const padded = Buffer.concat([long, Buffer.alloc(Math.max(0, 9_000_000 - long.length))]);
  const twin = Buffer.from(padded);
  twin[padded.length - 2_500_000] ^= 1;
  const named = (buffer: Buffer, name = 'IMG_0001.MP4') => ({ name, mimeType: 'video/mp4', buffer });
  ffmpeg('-f', 'lavfi', '-i', 'color=s=2x2:r=25:d=1', ...X264, 'tiny.mp4');
  const wav = Buffer.concat([Buffer.from('fLaC'), Buffer.alloc(34)]);
  await startEmpty(page);
  await toLog(page);
  await files(page).setInputFiles([
    named(first),
    named(wav, 'cut.flac'),
    named(readFileSync(join(scratch, 'tiny.mp4')), 'tiny.mp4'),
    named(second),
    named(first),
    named(padded),
    named(twin),
  ]);
  await expect.poll(async () => (await kept(page)).takes.length, { timeout: 120_000 }).toBe(4);
  const { media } = await kept(page);
  expect(media.map((m) => m.name)).toEqual(Array.from({ length: 4 }, () => 'IMG_0001.MP4'));
  expect(new Set(media.map((m) => m.id)).size).toBe(4);
  await expect(alerts(page).filter({ hasText: 'tiny.mp4' })).toContainText('Its pictures are 2×2 pixels');
  await expect(alerts(page).filter({ hasText: 'cut.flac' })).toContainText(/damaged|decoded|no sound/);
  for (const text of await alerts(page).allTextContents()) expect(text).not.toMatch(/Decoding error|Infinity|undefined/);
});

/** A copy of an MP4 in which the number at the given place of a box is replaced (ISO/IEC 14496-12). */
function withNumber(bytes: Buffer, box: string, at: number, value: number): Buffer {
  const out = Buffer.from(bytes);
  out.writeUInt32BE(value, out.indexOf(box, 0, 'latin1') + 4 + at);
  return out;
}

/** An MP4 whose first track is there many times more. */
function withTracks(bytes: Buffer, more: number): Buffer {
  const at = bytes.indexOf('trak', 0, 'latin1') - 4;
  const moov = bytes.indexOf('moov', 0, 'latin1') - 4;
  const track = bytes.subarray(at, at + bytes.readUInt32BE(at));
  const out = Buffer.concat([bytes.subarray(0, at), ...Array.from({ length: more }, () => track), bytes.subarray(at)]);
  out.writeUInt32BE(bytes.readUInt32BE(moov) + more * track.length, moov);
  return out;
}

test('films whose tables lie are taken in or refused within ten seconds each, with a sentence', async ({ page }) => {
  const plain = readFileSync(film('plain.mp4', 40));
  ffmpeg('-f', 'lavfi', '-i', 'testsrc2=s=160x120:r=25:d=1', '-c:v', 'libvpx-vp9', '-deadline', 'realtime', 'zeroed.webm');
  ffmpeg('-f', 'lavfi', '-i', 'sine=d=1', 'whole.flac');
  const webm = readFileSync(join(scratch, 'zeroed.webm')).fill(0, 200);
  const bad: Record<string, Buffer> = {
    'samples.mp4': withNumber(plain, 'stsz', 8, 0xffffffff),
    'times.mp4': withNumber(withNumber(plain, 'stts', 4, 1), 'stts', 8, 0xfffffffe),
    'long.mp4': withNumber(plain, 'stts', 12, 0x7fffffff),
    'chunks.mp4': withNumber(plain, 'stco', 4, 0x7fffffff),
    'runs.mp4': withNumber(plain, 'stsc', 4, 0x00ffffff),
    'keys.mp4': withNumber(plain, 'stss', 4, 0xffffffff),
    'tracks.mp4': withTracks(plain, 20_000),
    'zeroed.webm': webm,
    'head.flac': readFileSync(join(scratch, 'whole.flac')).subarray(0, 4096),
  };
  await startEmpty(page);
  await toLog(page);
  for (const [name, buffer] of Object.entries(bad)) {
    await files(page).setInputFiles({ name, mimeType: 'video/mp4', buffer });
    const refused = alerts(page).filter({ hasText: name });
    const answered = async () => (await refused.count()) > 0 || (await kept(page)).media.some((m) => m.name === name);
    await expect.poll(answered, { timeout: 10_000, message: `${name} is answered in time` }).toBe(true);
    if ((await refused.count()) > 0) expect(await refused.first().textContent()).not.toMatch(/Decoding error|Infinity|undefined|NaN/);
  }
  // A whole film after all of these is taken in as ever.
  await files(page).setInputFiles(film('after.mp4', 90));
  await expect.poll(async () => (await kept(page)).media.some((m) => m.name === 'after.mp4'), { timeout: 20_000 }).toBe(true);
});

test('a sound beside the song is asked about: laid beside it, used instead, or left out', async ({ page }) => {
  await openDemo(page);
  await toLog(page);
  const sound = (name: string, hertz: number) => {
    ffmpeg('-f', 'lavfi', '-i', `sine=f=${hertz}:d=2`, name);
    return join(scratch, name);
  };
  const question = page.getByRole('alertdialog');
  const song = (await kept(page)).song?.mediaId;
  await files(page).setInputFiles(sound('left-out.wav', 300));
  await expect(question).toContainText('“left-out.wav” beside the song');
  await question.getByRole('button', { name: 'Leave it out' }).click();
  await expect(page.getByText('the song is as it was')).toBeVisible();
  expect(await kept(page)).toMatchObject({ song: { mediaId: song }, sound: { clips: [] } });
  await files(page).setInputFiles(sound('beside.wav', 400));
  await question.getByRole('button', { name: 'Lay it as a sound at the playhead' }).click();
  await expect.poll(async () => (await kept(page)).sound.clips.length).toBe(1);
  expect((await kept(page)).song?.mediaId).toBe(song);
  await files(page).setInputFiles(sound('instead.wav', 500));
  await question.getByRole('button', { name: 'Use it as the song instead' }).click();
  await expect.poll(async () => (await kept(page)).song?.mediaId).not.toBe(song);
});

test('a film is not made of what cannot be read: it says the frame, and what is left of it is chosen', async ({ page }) => {
  await openDemo(page);
  await layReveal(page);
  const project = await kept(page);
  const [shot] = project.shots;
  const after = project.takes.find((t) => shot.move?.kind === 'reveal' && t.id === shot.move.after.takeId);
  const file = after?.mediaId ?? '';
  await renameStored(page, file, 'away');
  await press(page, stage(page, 'Deliver'));
  await expect(page.getByTestId('missing-files')).toBeVisible();
  await page.getByRole('button', { name: /Make MP4/ }).click();
  const stopped = page.getByTestId('film-stopped');
  await expect(stopped).toContainText(/The film was not made\. The file “take-3-outfit-two\.mp4” is no longer in the browser’s storage/);
  const [, frames] = /for these (\d+) frames/.exec((await stopped.textContent()) ?? '') ?? [];
  expect(Number(frames)).toBeGreaterThan(10);
  const first = Number(/frame (\d+) of the film/.exec((await stopped.textContent()) ?? '')?.[1]);
  const made = await downloadBy(page, /Leave these \d+ frames black/, 'left-black.mp4');
  await expect(page.getByText(`${frames} frames in it are black or held, as you chose`)).toBeVisible();
  const total = Number(ffprobe(made).streams.find((s) => s.codec_type === 'video')?.nb_read_packets);
  const mean = (index: number) => greyFrame(made, index, 16, 16).reduce((a, b) => a + b, 0) / 256;
  // Frames that do not need the file are as they were.
  expect(mean(total - 1)).toBeLessThan(6);
  if (first > 2) expect(mean(0)).toBeGreaterThan(10);
  await renameStored(page, 'away', file);
});

test('the storage page: projects renamed, copied, deleted and brought back; what belongs to nothing goes', async ({ page }) => {
  await startEmpty(page);
  await toLog(page);
  await files(page).setInputFiles(film('kept.mp4', 45));
  await expect.poll(async () => (await kept(page)).takes.length).toBe(1);
  const [{ id }] = (await kept(page)).media;
  await page.getByRole('button', { name: /New project/ }).click();
  await page.getByRole('menuitem', { name: /Projects and storage/ }).click();
  const row = (name: string) =>
    page.getByTestId('project-row').filter({ has: page.getByRole('textbox', { name: `Name of the project ${name}`, exact: true }) });
  await row('New project').getByRole('textbox').fill('Spin cycle');
  await row('New project').getByRole('textbox').press('Enter');
  await expect(row('Spin cycle')).toContainText('open now');
  await row('Spin cycle').getByRole('button', { name: 'Copy' }).click();
  await expect(row('Spin cycle, copy')).toContainText('open now');
  for (const name of ['Spin cycle', 'Spin cycle, copy']) {
    await row(name).getByRole('button', { name: 'Delete' }).click();
    await expect(row(name)).toHaveCount(0);
  }
  await expect(page.getByRole('button', { name: /Night laundrette/ })).toBeVisible();
  const gone = page.getByRole('listitem').filter({ hasText: 'gone for good on' });
  await expect(gone).toHaveCount(2);
  await gone.filter({ hasText: 'copy' }).getByRole('button', { name: 'Bring back' }).click();
  await expect(row('Spin cycle, copy')).toContainText('open now');
  expect((await stored(page))[id]).toBeGreaterThan(0);
  await row('Spin cycle, copy').getByRole('button', { name: 'Delete' }).click();
  for (let n = 2; n > 0; n--) {
    await gone.first().getByRole('button', { name: 'Delete for good' }).click();
    await expect(gone).toHaveCount(n - 1);
  }
  await page.getByRole('button', { name: 'Remove them' }).click();
  await expect(page.getByText('0 files, 0 kB')).toBeVisible();
  expect((await stored(page))[id]).toBeUndefined();
  await page.reload();
  await expect(row('Night laundrette')).toBeVisible();
});

test('when the tab that writes is closed the other one writes, with what was saved there', async ({ page, context }) => {
  await openDemo(page);
  const other = await context.newPage();
  await other.goto('/shoot');
  await expect(other.getByText('This project is open in another tab')).toBeVisible();
  await toLog(page);
  await page.getByRole('button', { name: 'Rate spare' }).first().click();
  const rating = (await kept(page)).takes[0].rating;
  await page.close();
  await expect(other.getByText('This project is open in another tab')).toHaveCount(0, { timeout: 5000 });
  expect((await kept(other)).takes[0].rating).toBe(rating);
  await other.getByRole('button', { name: 'Rate best' }).first().click();
  await expect.poll(async () => (await kept(other)).takes[0].rating).not.toBe(rating);
});

test('a damaged document opens in repair: the rest works, the original can be had', async ({ page }) => {
  await openDemo(page);
  await saved(page);
  // As an older version wrote it: a margin too wide, a take without its file, a rate that is none.
  await page.evaluate(
    () =>
      new Promise<void>((resolve) => {
        const open = indexedDB.open('fickle-ribbon');
        open.onsuccess = () => {
          const work = open.result.transaction('projects', 'readwrite');
          const all = work.objectStore('projects').getAll();
          all.onsuccess = () => {
            const [row] = all.result;
            row.document.media = row.document.media.filter((m: { name: string }) => m.name !== 'take-1-clean-plate.mp4');
            row.document.frame.rate = { num: 1e9, den: 1 };
            work.objectStore('projects').put(row);
          };
          work.oncomplete = () => {
            open.result.close();
            resolve();
          };
        };
      }),
  );
  await page.reload();
  await expect(page.getByText('The project was damaged and has been repaired')).toBeVisible();
  await expect(page.getByText(/take 1 of the slot “plate”: its film is not in the project/)).toBeVisible();
  expect((await kept(page)).takes).toHaveLength(4);
  await page.getByRole('link', { name: 'Storage', exact: true }).click();
  await expect(page.getByText('Documents as they were before repair')).toBeVisible();
  const original = await downloadBy(page, /Save as a file/, 'original.json');
  expect(JSON.parse(readFileSync(original, 'utf8')).takes).toHaveLength(5);
  await page.reload();
  await expect(page.getByText('has been repaired')).toHaveCount(0);
});

test('a take in use is taken out with its layers after a question, and one undo brings all of it back', async ({ page }) => {
  await openDemo(page);
  await layReveal(page);
  const before = await kept(page);
  await toLog(page);
  const row = page.getByRole('listitem').filter({ hasText: 'take-3-outfit-two.mp4' });
  await row.getByText(/^Settings and note/).click();
  await row.getByRole('button', { name: 'Take it out of the project' }).click();
  await expect(page.getByRole('alertdialog')).toContainText('“Masked reveal” show it');
  await page.getByRole('button', { name: 'Take it out with its layers' }).click();
  await expect.poll(async () => (await kept(page)).takes.length).toBe(4);
  expect((await kept(page)).shots[0].layers.length).toBeLessThan(before.shots[0].layers.length);
  await page.getByRole('button', { name: 'Undo: Take a take out' }).click();
  await expect.poll(async () => (await kept(page)).shots).toEqual(before.shots);
});

test('a disk that fills up while the film is made is a clear sentence, and the next try works', async ({ page, context }) => {
  await openDemo(page);
  await layReveal(page);
  await press(page, stage(page, 'Deliver'));
  const devtools = await context.newCDPSession(page);
  const { origin } = new URL(page.url());
  const { usage } = await devtools.send('Storage.getUsageAndQuota', { origin });
  await devtools.send('Storage.overrideQuotaForOrigin', { origin, quotaSize: usage + 200_000 });
  await page.getByRole('button', { name: /Make MP4/ }).click();
  await expect(alerts(page).filter({ hasText: 'storage is full' })).toContainText(
    /film could not be written to its end.*Your project is safe/,
    { timeout: 60_000 },
  );
  await devtools.send('Storage.overrideQuotaForOrigin', { origin });
  const made = await downloadBy(page, /Make MP4/, 'after-full.mp4');
  expect(Number(ffprobe(made).format.duration)).toBeGreaterThan(1);
});

test('pages have their policy, cannot be framed, and the server listens on this machine only', async ({
  request,
  baseURL,
  demoProfile,
}, info) => {
  for (const path of ['/plan', '/storage', '/licences', '/nowhere', '/demo/half-load.m4a', '/vision/selfie_segmentation.js']) {
    const headers = (await request.get(path)).headers();
    const policy = headers['content-security-policy'];
    expect(policy, path).toContain("default-src 'self'");
    expect(policy, path).toContain("frame-ancestors 'none'");
    const scripts = /script-src ([^;]*)/.exec(policy)?.[1] ?? '';
    expect(scripts, path).not.toMatch(/'unsafe-inline'|(^| )'unsafe-eval'|https?:/);
    expect(headers).toMatchObject({ 'x-content-type-options': 'nosniff', 'referrer-policy': 'no-referrer', 'x-frame-options': 'DENY' });
    expect(headers['permissions-policy']).toContain('camera=(self), microphone=(self)');
  }
  const eval_ = (await request.get('/vision/opencv.worker.js')).headers()['content-security-policy'];
  expect(eval_).toContain("'unsafe-eval'");
  // Another origin shows nothing of it in a frame, and a script put into a page does not run.
  const other = await browserOf(copyOf(demoProfile), info);
  const frames = await other.newPage();
  await frames.route('http://elsewhere.test/', (route) =>
    route.fulfill({ contentType: 'text/html', body: `<iframe src="${baseURL}/plan"></iframe>` }),
  );
  await frames.goto('http://elsewhere.test/');
  await expect
    .poll(() =>
      frames
        .frames()[1]
        ?.evaluate(() => document.body.textContent ?? '')
        .catch(() => 'blocked'),
    )
    .not.toContain('Plan');
  await frames.goto('/licences');
  await frames.evaluate(() => {
    const script = document.createElement('script');
    script.textContent = 'window.ran = true';
    document.head.append(script);
  });
  expect(await frames.evaluate(() => (window as unknown as { ran?: boolean }).ran)).toBeUndefined();
  await other.close();
  const { elsewhere, refused } = knocks();
  expect([...new Set(elsewhere)]).toEqual(['http://elsewhere.test/']);
  expect(refused.join(' ')).toMatch(/script/i);
  const { port } = new URL(baseURL ?? '');
  const outside = Object.values(networkInterfaces())
    .flat()
    .filter((a) => a && a.family === 'IPv4' && !a.internal);
  for (const address of outside)
    await expect(fetch(`http://${address?.address}:${port}/plan`, { signal: AbortSignal.timeout(3000) })).rejects.toThrow();
});
