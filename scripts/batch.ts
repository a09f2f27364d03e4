/**
 * The headless door: opens the built application in Chromium and uses its own import, workers and export.
 *   npm run batch -- beats SONG --out beats.json
 *   npm run batch -- takes REFERENCE OTHER... --out takes.json
 *   npm run batch -- sync FIRST SECOND --out sync.json
 *   npm run batch -- seam LEFT RIGHT [PLATE] --out seam.json
 *   npm run batch -- matte TAKE [PLATE] --at 1.5 --out cut-out.png
 *   npm run batch -- render PROJECT.zip --out film.mp4
 */
import { existsSync, writeFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { parseArgs } from 'node:util';
import { launchChromium } from './chromium';
import { startServer } from './server';

const USAGE = `Usage:
  npm run batch -- beats SONG --out beats.json
  npm run batch -- takes REFERENCE OTHER... --out takes.json
  npm run batch -- sync FIRST SECOND --out sync.json
  npm run batch -- seam LEFT RIGHT [PLATE] --out seam.json
  npm run batch -- matte TAKE [PLATE] --at SECONDS --out cut-out.png
  npm run batch -- render PROJECT.zip --out film.mp4   (or .webm)`;

/** What a report has to say in words. */
function said(report: unknown): string[] {
  const { takes = [], shadow_frames = 0 } = report as {
    takes?: {
      file: string;
      against_own_start: { notes: string[] };
      against_reference: { verdict: string } | null;
      occupancy_reason: string;
    }[];
    shadow_frames?: number;
  };
  const ofTakes = takes.flatMap(({ file, against_own_start, against_reference, occupancy_reason }) =>
    [...against_own_start.notes, against_reference?.verdict ?? '', occupancy_reason].filter(Boolean).map((line) => `${file}: ${line}`),
  );
  return shadow_frames ? [...ofTakes, `A shadow lies on the seam in ${shadow_frames} frames.`] : ofTakes;
}

function fail(message: string): never {
  console.error(message);
  process.exit(2);
}

async function main(): Promise<void> {
  const { positionals, values } = parseArgs({
    allowPositionals: true,
    options: { out: { type: 'string', short: 'o' }, at: { type: 'string', default: '0' } },
  });
  const [verb, ...files] = positionals;
  const { out } = values;
  const at = Number(values.at);
  const fewest: Record<string, number> = { beats: 1, takes: 1, sync: 2, seam: 2, matte: 1, render: 1 };
  if (!verb || !(verb in fewest) || files.length < fewest[verb] || !out || !(at >= 0)) fail(USAGE);
  for (const file of files) if (!existsSync(file)) fail(`There is no file ${file}.`);
  const server = await startServer();
  const browser = await launchChromium();
  try {
    const page = await (await browser.newContext({ acceptDownloads: true })).newPage();
    await page.goto(`${server.url}/batch`);
    await page.getByTestId('batch-files').setInputFiles(files.map((f) => resolve(f)));
    await page.waitForFunction(() => window.fickleRibbonDoor !== undefined);
    if (verb === 'render') {
      const format = out.endsWith('.webm') ? 'webm' : 'mp4';
      const download = page.waitForEvent('download', { timeout: 0 });
      const made = await page.evaluate(
        async (f) => {
          const film = await window.fickleRibbonDoor?.render(f);
          if (!film) throw new Error('The page is not ready.');
          const link = document.createElement('a');
          link.href = film.url;
          link.download = `film.${f}`;
          link.click();
          return film;
        },
        format as 'mp4' | 'webm',
      );
      await (await download).saveAs(out);
      console.log(`${out}: ${made.frames} frames in ${made.seconds.toFixed(2)} s`);
    } else if (verb === 'matte') {
      const download = page.waitForEvent('download', { timeout: 0 });
      const note = await page.evaluate(async (seconds) => {
        const made = await window.fickleRibbonDoor?.matte(seconds);
        if (!made) throw new Error('The page is not ready.');
        const link = document.createElement('a');
        link.href = made.url;
        link.download = 'cut-out.png';
        link.click();
        return made.note;
      }, at);
      await (await download).saveAs(out);
      console.log(`${out} written`);
      if (note) console.log(note);
    } else {
      const report = await page.evaluate(
        async (name): Promise<unknown> => window.fickleRibbonDoor?.[name](),
        verb as 'beats' | 'takes' | 'sync' | 'seam',
      );
      writeFileSync(out, `${JSON.stringify(report, null, 1)}\n`);
      console.log(`${out} written`);
      for (const line of said(report)) console.log(line);
    }
  } catch (error) {
    console.error(error instanceof Error ? error.message.replace(/^page\.evaluate: (Error: )?/, '').split('\n')[0] : error);
    process.exitCode = 1;
  } finally {
    await browser.close();
    server.stop();
  }
}

await main();
