import type { NextConfig } from 'next';

const config: NextConfig = {
  serverExternalPackages: [
    'better-sqlite3',
    'knex',
    'sharp',
    'piscina',
    '@embedpdf/pdfium',
    'lcms-wasm',
    'fontkit',
  ],
  devIndicators: false,
  // Bootstrap 5 is written in an older Sass; its warnings are nothing we could mend.
  sassOptions: {
    quietDeps: true,
    silenceDeprecations: ['import', 'global-builtin', 'color-functions', 'if-function'],
  },
  poweredByHeader: false,
  // Pictures come as they are; the route that would make others is closed (server/web/guard.ts).
  images: { unoptimized: true },
};

export default config;
