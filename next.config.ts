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
  headers: async () => [{ source: '/:path*', headers: isolation }],
};

export default config;
