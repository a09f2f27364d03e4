/**
 * Builds the workers of OpenCV and of the person segmentation: files of their own under `public/vision/`, beside what they load. The first
 * is served with a right no other has; the second must be a classic worker.
 */
import { build } from 'esbuild';

for (const [source, name] of [
  ['vision', 'opencv'],
  ['person', 'person'],
])
  await build({
    entryPoints: [`src/workers/${source}.worker.ts`],
    outfile: `public/vision/${name}.worker.js`,
    bundle: true,
    minify: true,
    format: 'iife',
    target: 'es2022',
    // OpenCV.js sets names it never declared, which strict code may not.
    tsconfigRaw: { compilerOptions: { strict: false, alwaysStrict: false } },
    // OpenCV.js asks for the last three only when it finds itself in Node.
    alias: { '@': './src', fs: './src/media/nothing.ts', path: './src/media/nothing.ts', crypto: './src/media/nothing.ts' },
    logLevel: 'error',
  });
