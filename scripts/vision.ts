/** Builds the worker that OpenCV runs in: one file of its own under `public/vision/`, for it is served with a right no other has. */
import { build } from 'esbuild';

await build({
  entryPoints: ['src/workers/vision.worker.ts'],
  outfile: 'public/vision/opencv.worker.js',
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
