import { palette } from '@/core/base/palette';
import '@fontsource-variable/atkinson-hyperlegible-next';
import '@fontsource-variable/atkinson-hyperlegible-mono';
import '@fontsource-variable/source-serif-4';
import 'katex/dist/katex.min.css';
import './globals.css';
import type { Metadata, Viewport } from 'next';
import type { ReactNode } from 'react';

export const metadata: Metadata = { title: { default: 'Wuzzen', template: '%s · Wuzzen' } };
export const viewport: Viewport = { width: 'device-width', initialScale: 1, themeColor: palette.paper };
/** Every page depends on who asks and when. */
export const dynamic = 'force-dynamic';

export default function RootLayout({ children }: { children: ReactNode }) {
  return (
    <html lang="en">
      <body className="min-h-dvh bg-paper text-ink">{children}</body>
    </html>
  );
}
