import type { NextConfig } from 'next';
import createNextIntlPlugin from 'next-intl/plugin';

const isolation = [
  { key: 'Cross-Origin-Opener-Policy', value: 'same-origin' },
  { key: 'Cross-Origin-Embedder-Policy', value: 'require-corp' },
  { key: 'Cross-Origin-Resource-Policy', value: 'same-origin' },
];
const hardening = [
  { key: 'X-Content-Type-Options', value: 'nosniff' },
  { key: 'X-Frame-Options', value: 'DENY' },
  { key: 'Referrer-Policy', value: 'same-origin' },
];

const config: NextConfig = {
  turbopack: { root: import.meta.dirname },
  serverExternalPackages: ['pg', 'pino', 'graphile-worker'],
  poweredByHeader: false,
  // ./bektra test checks the types; a user's build need not do so again
  typescript: { ignoreBuildErrors: true },
  headers: async () => [{ source: '/:path*', headers: [...isolation, ...hardening] }],
  // where the addresses of games begin, their list is looked for
  redirects: async () => [{ source: '/games', destination: '/', permanent: false }],
  // browsers ask for it by this name where a page does not tell them in time
  rewrites: async () => [{ source: '/favicon.ico', destination: '/icon.svg' }],
  sassOptions: {
    quietDeps: true,
    silenceDeprecations: ['import', 'global-builtin', 'color-functions', 'if-function'],
  },
};

export default createNextIntlPlugin('./src/app/i18n.ts')(config);
