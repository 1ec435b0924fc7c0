import { createTheme } from '@mui/material/styles';
import { c, dark, light } from './tokens';

declare module '@mui/material/styles' {
  interface Palette {
    osier: typeof light;
  }
  interface PaletteOptions {
    osier?: typeof light;
  }
}

const palette = (it: typeof light) => ({
  osier: it,
  primary: { main: it.reed, contrastText: it.surface },
  error: { main: it.fail },
  warning: { main: it.advice },
  success: { main: it.pass },
  info: { main: it.slate },
  text: { primary: it.ink, secondary: it.muted },
  background: { default: it.paper, paper: it.surface },
  divider: it.line,
});

const font = "'Atkinson Hyperlegible Next Variable', sans-serif";

export const theme = createTheme({
  cssVariables: { colorSchemeSelector: 'data-scheme' },
  colorSchemes: { light: { palette: palette(light) }, dark: { palette: palette(dark) } },
  shape: { borderRadius: 6 },
  typography: {
    fontFamily: font,
    fontSize: 14,
    h1: { fontSize: '1.7rem', fontWeight: 700, letterSpacing: '-0.01em' },
    h2: { fontSize: '1.15rem', fontWeight: 700 },
    button: { textTransform: 'none', fontWeight: 600 },
  },
  components: {
    MuiCssBaseline: {
      styleOverrides: {
        body: { fontVariantNumeric: 'tabular-nums', minHeight: '100dvh' },
        ':focus-visible': { outline: `3px solid ${c.slate}`, outlineOffset: 2 },
        '@media (prefers-reduced-motion: reduce)': {
          '*': { animation: 'none !important', transition: 'none !important' },
        },
      },
    },
    MuiButton: {
      defaultProps: { disableElevation: true, disableRipple: true },
      styleOverrides: {
        root: {
          minHeight: 44,
          paddingInline: 18,
          borderRadius: 6,
          // What is chosen of several looks chosen, by a mark as well as by colour; grey would look as if it could not be pressed.
          '&[aria-pressed="true"], &[role="radio"][aria-checked="true"]': {
            backgroundColor: c.willow,
            color: c.ink,
            border: `1px solid ${c.reed}`,
            boxShadow: `inset 4px 0 ${c.reed}`,
            '&:hover': { backgroundColor: c.willow },
          },
        },
        sizeSmall: { minHeight: 44, paddingInline: 12 },
      },
    },
    MuiOutlinedInput: {
      styleOverrides: {
        root: { backgroundColor: c.raised, minHeight: 44 },
        notchedOutline: { borderColor: c.edge },
      },
    },
    MuiDialog: { styleOverrides: { paper: { backgroundImage: 'none' } } },
    MuiTableCell: { styleOverrides: { root: { borderColor: c.line, paddingBlock: 9 } } },
    MuiLink: { styleOverrides: { root: { color: c.slate, textUnderlineOffset: 3 } } },
  },
});
