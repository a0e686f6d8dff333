import type { NextConfig } from 'next';

const config: NextConfig = {
  serverExternalPackages: ['sharp', 'file-type', 'exceljs', 'katex', 'better-sqlite3'],
  poweredByHeader: false,
  // A page of pasted questions, or what was read from a file and is confirmed.
  experimental: { serverActions: { bodySizeLimit: '12mb' } },
  reactStrictMode: true,
  // `npm run types` checks them, once and for all rooms; checking again here would double the wait.
  typescript: { ignoreBuildErrors: true },
  devIndicators: false,
};

export default config;
