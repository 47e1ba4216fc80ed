import '@fontsource-variable/atkinson-hyperlegible-mono/index.css';
import '@fontsource-variable/atkinson-hyperlegible-next/index.css';
import './globals.css';
import InitColorSchemeScript from '@mui/material/InitColorSchemeScript';
import { AppRouterCacheProvider } from '@mui/material-nextjs/v16-appRouter';
import type { Metadata } from 'next';
import { headers } from 'next/headers';
import type { ReactNode } from 'react';
import { BenchFrame } from './bench-frame';
import { Providers } from './providers';

export const metadata: Metadata = {
  title: 'Bujo',
  description: 'A bench for proving the link to a drive.',
};

/** Made for each request, for its scripts carry that request's number. */
export default async function RootLayout({ children }: { readonly children: ReactNode }) {
  const nonce = (await headers()).get('x-nonce') ?? undefined;
  return (
    <html lang="en" suppressHydrationWarning>
      <body>
        <InitColorSchemeScript attribute="data" defaultMode="system" nonce={nonce} />
        {/* Before the style sheets of the parts, which come after it and win; in a layer, each new rule would have the whole page laid out anew. */}
        <AppRouterCacheProvider options={{ prepend: true, nonce }}>
          <Providers>
            <BenchFrame>{children}</BenchFrame>
          </Providers>
        </AppRouterCacheProvider>
      </body>
    </html>
  );
}
