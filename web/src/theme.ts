import { createTheme } from '@mui/material/styles';

/** The colours of layout dye, scribe lines, bare metal and the first colour steel takes when heated. */
export const token = {
  dye: '#2b2470',
  dyeDeep: '#1d1850',
  scribe: '#d9d4f7',
  ink: '#1b2026',
  inkSoft: '#505a64',
  plate: '#f3f4f5',
  paper: '#fbfbfa',
  hairline: '#d3d9de',
  straw: '#d9a21b',
  tightPaper: '#fdf6e3',
  tightText: '#7a5600',
  fouls: '#b3321b',
  foulsPaper: '#f6e3dd',
  metal: '#dfe3e7',
  metalDark: '#c3cad1',
} as const;

export const headingFont = '"Saira Condensed", sans-serif';
export const textFont = '"Atkinson Hyperlegible Next Variable", sans-serif';

declare module '@mui/material/Button' {
  interface ButtonPropsVariantOverrides {
    main: true;
  }
}

export const theme = createTheme({
  shape: { borderRadius: 0 },
  palette: {
    primary: { main: token.dye, dark: token.dyeDeep, contrastText: '#fff' },
    secondary: { main: token.straw, contrastText: token.ink },
    error: { main: token.fouls },
    text: { primary: token.ink, secondary: token.inkSoft },
    background: { default: token.plate, paper: token.paper },
    divider: token.hairline,
  },
  typography: {
    fontFamily: textFont,
    fontSize: 14,
    h1: { fontFamily: headingFont, fontSize: 26, fontWeight: 600, lineHeight: 1.15 },
    h2: { fontFamily: headingFont, fontSize: 18, fontWeight: 600, lineHeight: 1.2 },
    h3: { fontFamily: headingFont, fontSize: 16, fontWeight: 600, lineHeight: 1.2 },
    body2: { fontSize: 14 },
    button: { textTransform: 'none', fontWeight: 600 },
  },
  transitions: { create: () => 'none' },
  components: {
    MuiButtonBase: {
      defaultProps: { disableRipple: true },
      styleOverrides: { root: { fontFamily: textFont } },
    },
    MuiPaper: { defaultProps: { elevation: 0 } },
    MuiButton: {
      defaultProps: { disableElevation: true, size: 'small' },
      styleOverrides: { root: { padding: '4px 12px', fontSize: 14 }, outlined: { borderWidth: 1.5 } },
      variants: [
        {
          props: { variant: 'main' },
          style: {
            backgroundColor: token.straw,
            color: token.ink,
            '&:hover': { backgroundColor: '#e8b53a' },
            '&.Mui-disabled': { backgroundColor: '#e3e1d8', color: '#6d6a60' },
          },
        },
      ],
    },
    MuiTextField: { defaultProps: { size: 'small', variant: 'outlined' } },
    MuiOutlinedInput: {
      styleOverrides: {
        root: { backgroundColor: '#fff' },
        input: { padding: '6px 0 6px 9px' },
        adornedEnd: { paddingRight: 8 },
      },
    },
    MuiInputAdornment: { styleOverrides: { root: { color: token.inkSoft, fontSize: 14 } } },
    MuiSelect: { styleOverrides: { select: { padding: '6px 9px' } } },
    MuiDialog: { defaultProps: { transitionDuration: 0 } },
    MuiTooltip: { defaultProps: { arrow: true } },
    MuiCssBaseline: {
      styleOverrides: {
        body: { fontVariantNumeric: 'tabular-nums', backgroundColor: token.plate },
        '*:focus-visible': { outline: `2px solid ${token.straw}`, outlineOffset: 1 },
      },
    },
  },
});
