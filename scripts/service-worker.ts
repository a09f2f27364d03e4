/** Builds the service worker over what `next build` left: it keeps the whole application for the times without a network. */
import { readdirSync, readFileSync } from 'node:fs';
import { getManifest } from '@serwist/build';
import { build } from 'esbuild';

const PAGES = '.next/server/app';
const id = readFileSync('.next/BUILD_ID', 'utf8').trim();
const names = readdirSync(PAGES)
  .filter((f) => f.endsWith('.html') && !f.startsWith('_'))
  .map((f) => f.slice(0, -5));
const pageOf = (name: string) => (name === 'index' ? '/' : `/${name}`);

const { manifestEntries, warnings } = await getManifest({
  globDirectory: '.',
  globPatterns: ['.next/static/**/*', 'public/**/*'],
  // Browsers without SIMD are not served: the pictures need it as well.
  globIgnores: ['public/sw.js', 'public/vision/*_solution_wasm_bin.*', '**/*.map'],
  dontCacheBustURLsMatching: /^\.next\/static\//,
  maximumFileSizeToCacheInBytes: 50e6,
  modifyURLPrefix: { '.next/static/': '/_next/static/', 'public/': '/' },
});
if (warnings.length > 0) throw new Error(warnings.join('\n'));
const others = ['/icon.svg', '/apple-icon.png', '/manifest.webmanifest'];
const files = [...(manifestEntries ?? []), ...[...names.map(pageOf), ...others].map((url) => ({ url, revision: id }))];
const parts = names.flatMap((name) => [
  { page: pageOf(name), segment: '' },
  ...(readdirSync(`${PAGES}/${name}.segments`, { recursive: true }) as string[])
    .filter((f) => f.endsWith('.segment.rsc'))
    .map((f) => ({ page: pageOf(name), segment: `/${f.replace(/\.segment\.rsc$/, '')}` })),
]);

await build({
  entryPoints: ['src/workers/service.worker.ts'],
  outfile: 'public/sw.js',
  bundle: true,
  minify: true,
  format: 'iife',
  target: 'es2022',
  define: {
    FILES: JSON.stringify(files),
    PARTS: JSON.stringify(parts),
    BUILD: JSON.stringify(id),
    'process.env.NODE_ENV': '"production"',
  },
  logLevel: 'error',
});
