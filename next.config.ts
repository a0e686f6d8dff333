import type { NextConfig } from 'next';

const config: NextConfig = {
  serverExternalPackages: ['@napi-rs/canvas', 'sharp', 'file-type', 'katex', 'better-sqlite3'],
  poweredByHeader: false,
  experimental: {
    // A page of pasted questions, or what was read from a file and is confirmed.
    serverActions: { bodySizeLimit: '12mb' },
    // Each page is read when it is first asked for: students who wait for a server that starts again wait for theirs alone.
    preloadEntriesOnStart: false,
    // A third and more of a build went into shortening names that only our own machine reads, and into maps back to them.
    serverMinification: false,
    turbopackSourceMaps: process.env.NODE_ENV !== 'production',
    turbopackInputSourceMaps: process.env.NODE_ENV !== 'production',
  },
  reactStrictMode: true,
  // `npm run types` checks them, once and for all rooms; checking again here would double the wait.
  typescript: { ignoreBuildErrors: true },
  devIndicators: false,
};

export default config;
