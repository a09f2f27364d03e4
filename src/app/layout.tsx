import { say } from '@/core/words';
import '@fontsource-variable/fraunces';
import '@fontsource-variable/recursive';
import './globals.css';
import type { Metadata, Viewport } from 'next';
import type { ReactNode } from 'react';

export const metadata: Metadata = {
  appleWebApp: { capable: true, title: say`Fickle Ribbon`, statusBarStyle: 'default' },
  title: say`Fickle Ribbon`,
  description: say`Film several takes, put them together on the beat: plan, shoot, measure, score, check and deliver.`,
};

export const viewport: Viewport = { width: 'device-width', initialScale: 1, viewportFit: 'cover', themeColor: '#f3ecdf' };

export default function RootLayout({ children }: { children: ReactNode }) {
  return (
    <html lang="en">
      <body>{children}</body>
    </html>
  );
}
