/** How many pictures a second the browser's decoder gives by itself, in order, nothing done with them. */
import type { Browser } from '@playwright/test';
import { build } from 'esbuild';

const SOURCE = `
import { ALL_FORMATS, BlobSource, Input, VideoSampleSink } from 'mediabunny';
globalThis.decoded = async (file) => {
  const input = new Input({ formats: ALL_FORMATS, source: new BlobSource(file) });
  const track = await input.getPrimaryVideoTrack();
  const began = performance.now();
  let n = 0;
  for await (const sample of new VideoSampleSink(track).samples()) {
    n++;
    sample.close();
  }
  input.dispose();
  return (1000 * n) / (performance.now() - began);
};
`;

export async function decoderRates(browser: Browser, url: string, files: readonly string[]): Promise<number[]> {
  const { outputFiles } = await build({
    stdin: { contents: SOURCE, resolveDir: process.cwd(), loader: 'js' },
    bundle: true,
    write: false,
    format: 'iife',
    logLevel: 'error',
  });
  const context = await browser.newContext({ bypassCSP: true, serviceWorkers: 'block' });
  const page = await context.newPage();
  await page.goto(`${url}/licences`);
  await page.addScriptTag({ content: outputFiles[0].text });
  await page.evaluate(() => {
    const input = document.createElement('input');
    input.type = 'file';
    input.id = 'decoded';
    document.body.append(input);
  });
  const rates: number[] = [];
  for (const file of files) {
    await page.locator('#decoded').setInputFiles(file);
    rates.push(
      await page.evaluate(() => {
        const { decoded } = globalThis as unknown as { decoded(file: File): Promise<number> };
        const input = document.querySelector('#decoded') as HTMLInputElement;
        return decoded((input.files as FileList)[0]);
      }),
    );
  }
  await context.close();
  return rates;
}
