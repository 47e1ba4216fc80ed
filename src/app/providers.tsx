'use client';

import CssBaseline from '@mui/material/CssBaseline';
import { ThemeProvider } from '@mui/material/styles';
import type { ReactNode } from 'react';
import { BenchProvider } from '../bench/bench-context';
import { theme } from './theme';

export function Providers({ children }: { readonly children: ReactNode }) {
  return (
    <ThemeProvider theme={theme} defaultMode="system">
      <CssBaseline />
      <BenchProvider>{children}</BenchProvider>
    </ThemeProvider>
  );
}
