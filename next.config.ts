import type { NextConfig } from 'next';

const isolation = [
  { key: 'Cross-Origin-Opener-Policy', value: 'same-origin' },
  { key: 'Cross-Origin-Embedder-Policy', value: 'require-corp' },
  { key: 'Cross-Origin-Resource-Policy', value: 'same-origin' },
];

const config: NextConfig = {
  devIndicators: false,
  poweredByHeader: false,
  reactStrictMode: true,
  // `npm run types` checks them, with the stricter rules of the core and the workers.
  typescript: { ignoreBuildErrors: true },
  // OpenCV.js asks for these only when it finds itself in Node.
  turbopack: {
    resolveAlias: {
      fs: { browser: './src/media/nothing.ts' },
      path: { browser: './src/media/nothing.ts' },
      crypto: { browser: './src/media/nothing.ts' },
    },
  },
  headers: async () => [{ source: '/:path*', headers: isolation }],
};

export default config;
