'use client';

import { createTheme } from '@mui/material/styles';
import { BENCH_PAPER, MONO_FACE, NIGHT_SHIFT, TEXT_FACE, type BenchTokens } from '../ui/tokens';

declare module '@mui/material/styles' {
  interface Palette {
    bench: BenchTokens;
  }
  interface PaletteOptions {
    bench: BenchTokens;
  }
}

const palette = (bench: BenchTokens) => ({
  bench,
  primary: { main: bench.copper, contrastText: bench.onCopper },
  secondary: { main: bench.verdigris, contrastText: bench.onCopper },
  error: { main: bench.alarm, contrastText: bench.onAlarm },
  warning: { main: bench.brass },
  background: { default: bench.paper, paper: bench.sheet },
  text: { primary: bench.ink, secondary: bench.softInk },
  divider: bench.rule,
});

/** Words of a faulty field: the alarm colour is a ground and too dark for words at night. */
const FAULT_TEXT = { '&.Mui-error': { color: 'var(--bujo-palette-bench-fault)' } } as const;

/** The one theme file: the look's tokens become MUI's palette and the CSS variables `--bujo-palette-bench-…` that the style sheets use. */
export const theme = createTheme({
  cssVariables: { cssVarPrefix: 'bujo', colorSchemeSelector: 'data' },
  colorSchemes: { light: { palette: palette(BENCH_PAPER) }, dark: { palette: palette(NIGHT_SHIFT) } },
  shape: { borderRadius: 2 },
  typography: { fontFamily: TEXT_FACE, fontSize: 13, button: { textTransform: 'none', fontWeight: 650 } },
  components: {
    MuiButton: {
      defaultProps: { disableElevation: true, size: 'small' },
      styleOverrides: {
        root: {
          borderWidth: 1,
          padding: '4px 11px',
          lineHeight: 1.5,
          '&[aria-pressed="true"]': { boxShadow: 'inset 0 -3px currentColor', fontWeight: 800 },
        },
        sizeSmall: { fontSize: 14 },
        sizeLarge: { fontSize: 16, padding: '10px 14px' },
      },
    },
    MuiButtonBase: { defaultProps: { disableRipple: true } },
    MuiTextField: { defaultProps: { size: 'small', variant: 'outlined', slotProps: { inputLabel: { shrink: true } } } },
    // Their two animations are in globals.css: put in and taken out with each field, they had the whole page laid out anew as if its fonts had changed.
    MuiInputBase: { defaultProps: { disableInjectingGlobalStyles: true } },
    MuiOutlinedInput: {
      styleOverrides: {
        root: {
          background: 'var(--bujo-palette-bench-byte)',
          '&.Mui-focused .MuiOutlinedInput-notchedOutline': { borderColor: 'var(--bujo-palette-bench-ink)' },
        },
        input: { padding: '5px 9px' },
      },
    },
    MuiFormHelperText: { styleOverrides: { root: FAULT_TEXT } },
    MuiInputLabel: { styleOverrides: { root: FAULT_TEXT } },
    MuiAutocomplete: {
      styleOverrides: { inputRoot: { '&.MuiInputBase-sizeSmall': { paddingTop: 1.5, paddingBottom: 1.5 } } },
    },
    MuiTabs: {
      styleOverrides: {
        root: { minHeight: 0, borderBottom: '1px solid var(--bujo-palette-bench-rule)', marginBottom: 14 },
        indicator: { height: 3, backgroundColor: 'var(--bujo-palette-bench-ink)' },
      },
    },
    MuiTab: {
      styleOverrides: {
        root: {
          minHeight: 0,
          minWidth: 0,
          padding: '7px 10px',
          color: 'var(--bujo-palette-bench-softInk)',
          fontSize: 14,
          '&.Mui-selected': { color: 'var(--bujo-palette-bench-ink)', fontWeight: 800 },
          '&.Mui-focusVisible': { outline: '2px solid var(--bujo-palette-bench-copper)', outlineOffset: -2 },
        },
      },
    },
    MuiTooltip: { defaultProps: { enterDelay: 400 } },
    MuiCssBaseline: {
      styleOverrides: {
        // The baseline has each element take it over from the one around it. A browser then keeps a style for each pair of them, and looks through all: rows of a
        // list that comes and goes became slower with each that had been there.
        '*, *::before, *::after': { boxSizing: 'border-box' },
        'code, kbd, samp, .mono': { fontFamily: MONO_FACE },
      },
    },
  },
});
