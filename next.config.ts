import path from 'node:path';
import type { NextConfig } from 'next';

const root = path.resolve(import.meta.dirname);

/** COOP and COEP isolate the page, which gives workers a finer clock and lets the bench measure memory. What scripts may run is said in `src/proxy.ts`. */
const headers = [
  { key: 'Cross-Origin-Opener-Policy', value: 'same-origin' },
  { key: 'Cross-Origin-Embedder-Policy', value: 'require-corp' },
  { key: 'Cross-Origin-Resource-Policy', value: 'same-origin' },
  { key: 'X-Content-Type-Options', value: 'nosniff' },
  { key: 'Referrer-Policy', value: 'no-referrer' },
  {
    key: 'Permissions-Policy',
    value:
      'serial=(self), clipboard-write=(self), camera=(), microphone=(), geolocation=(), usb=(), hid=(), bluetooth=(), midi=(), ' +
      'payment=(), display-capture=(), publickey-credentials-get=()',
  },
];

const config: NextConfig = {
  poweredByHeader: false,
  // Everything goes over loopback, where packing costs more than it saves.
  compress: false,
  reactStrictMode: true,
  // `npm test` checks types once, with the tests' own among them.
  typescript: { ignoreBuildErrors: true },
  reactCompiler: true,
  outputFileTracingRoot: root,
  turbopack: { root },
  // The framework's own image server is not used, so it is not there.
  images: { unoptimized: true },
  headers: () => Promise.resolve([{ source: '/:path*', headers }]),
};

export default config;
