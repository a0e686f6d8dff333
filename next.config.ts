import type { NextConfig } from 'next';

const config: NextConfig = {
  serverExternalPackages: ['sharp', 'file-type', 'exceljs', 'katex', 'better-sqlite3'],
  poweredByHeader: false,
  reactStrictMode: true,
  devIndicators: false,
};

export default config;
