import type { NextConfig } from 'next';
import { policy } from './src/app/policy';

const isolation = [
  { key: 'Cross-Origin-Opener-Policy', value: 'same-origin' },
  { key: 'Cross-Origin-Embedder-Policy', value: 'require-corp' },
  { key: 'Cross-Origin-Resource-Policy', value: 'same-origin' },
];
const shut = [
  { key: 'X-Content-Type-Options', value: 'nosniff' },
  { key: 'Referrer-Policy', value: 'no-referrer' },
  { key: 'X-Frame-Options', value: 'DENY' },
  {
    key: 'Permissions-Policy',
    value:
      'camera=(self), microphone=(self), accelerometer=(self), gyroscope=(self), screen-wake-lock=(self), geolocation=(), payment=(), usb=(), display-capture=()',
  },
];

const config: NextConfig = {
  devIndicators: false,
  poweredByHeader: false,
  reactStrictMode: true,
  reactCompiler: true,
  // `npm run types` checks them, with the stricter rules of the core and the workers.
  typescript: { ignoreBuildErrors: true },
  headers: async () => [
    { source: '/:path*', headers: [...isolation, ...shut] },
    // Pages get theirs from the proxy, which knows their inline scripts.
    { source: '/:path((?:_next/static|demo|vision)/.*)', headers: [{ key: 'Content-Security-Policy', value: policy([]) }] },
    // OpenCV makes code out of text: its worker alone may.
    { source: '/vision/opencv.worker.js', headers: [{ key: 'Content-Security-Policy', value: policy(["'unsafe-eval'"]) }] },
  ],
};

export default config;
