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
  sheet: '#fff',
  strawPaper: '#f6e7bf',
  strawSoft: '#efd591',
  metalEdge: '#8b95a0',
  noteEdge: '#8a949e',
  seam: '#5d6873',
  clear: '#c9cfd6',
  tab: '#e8eaec',
  onInkSoft: '#c3cbd3',
  onInk: '#e6e9ec',
  onInkFaint: '#aeb7c0',
  inkEdge: '#55606b',
  inkDisabled: '#66717c',
  pipeLit: '#e9c468',
  pipeSeam: '#4c5460',
  mouth: '#7d75bd',
  dyeLight: '#8b84d8',
  dyeHover: '#3a328c',
  strained: '#ff8a6b',
  /** Outlines on dye, and bodies and the pipe's skin where they foul or are tight. */
  foulsOnDye: '#ff9b80',
  foulsBody: '#c8452c',
  foulsOnPipe: '#d4482f',
  tightOnDye: '#f2cf74',
  tightBody: '#a8842f',
  nearBody: '#564bd0',
  /** What does not matter to the pipe in hand: surfaces, and other pipes over their own shade. */
  recedes: '#5a50a8',
  dullPipe: '#b4afd6',
  dullHose: '#77719f',
  strawHover: '#e8b53a',
  disabledPaper: '#e3e1d8',
  disabledInk: '#6d6a60',
  grid: '#4a42a3',
  gridFaint: '#393189',
  /** Offers laid over the bay. */
  shown: ['#1f8a8a', '#a14fb0', '#c46a1b'],
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
    primary: { main: token.dye, dark: token.dyeDeep, contrastText: token.sheet },
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
            '&:hover': { backgroundColor: token.strawHover },
            '&.Mui-disabled': { backgroundColor: token.disabledPaper, color: token.disabledInk },
          },
        },
      ],
    },
    MuiTextField: { defaultProps: { size: 'small', variant: 'outlined' } },
    MuiOutlinedInput: {
      styleOverrides: {
        root: { backgroundColor: token.sheet },
        input: { padding: '6px 0 6px 9px' },
        adornedEnd: { paddingRight: 8 },
      },
    },
    MuiInputAdornment: { styleOverrides: { root: { color: token.inkSoft, fontSize: 14 } } },
    MuiToggleButton: { styleOverrides: { root: { color: token.inkSoft } } },
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
