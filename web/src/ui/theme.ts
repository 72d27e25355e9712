import { createTheme, type Shadows } from '@mui/material/styles'

export const tokens = {
  desk: '#F3EFE6',
  paper: '#FFFDF8',
  rule: '#DCD4C4',
  ruleFirm: '#B9AF9B',
  ink: '#1C2B2A',
  inkSoft: '#5B6663',
  verdigris: '#1B6E62',
  brass: '#94661A',
  brassInk: '#80570F',
  cinnabar: '#A5382B',
  inkWash: '#F4F0E7',
  series: ['#1B6E62', '#B9771F', '#46648F', '#96466A', '#6E7F2E', '#75599B', '#7E6248', '#2F8AA0'],
}

const sans = '"Public Sans Variable", system-ui, sans-serif'
const serif = '"Source Serif 4 Variable", Georgia, serif'
const menuShadow = '0 6px 20px rgba(28,43,42,.16)'

export const theme = createTheme({
  palette: {
    primary: { main: tokens.verdigris, contrastText: tokens.paper },
    error: { main: tokens.cinnabar },
    warning: { main: tokens.brass },
    background: { default: tokens.desk, paper: tokens.paper },
    text: { primary: tokens.ink, secondary: tokens.inkSoft },
    divider: tokens.rule,
  },
  shape: { borderRadius: 3 },
  typography: { fontFamily: sans, fontSize: 14, button: { textTransform: 'none' }, h1: { fontFamily: serif }, h2: { fontFamily: serif } },
  // One level of shadow, for menus and dialogs only.
  shadows: Array.from({ length: 25 }, (_, i) => (i === 0 ? 'none' : menuShadow)) as Shadows,
  transitions: { create: () => 'color .12s, background-color .12s' },
  components: {
    MuiButtonBase: { defaultProps: { disableRipple: true } },
    MuiButton: {
      defaultProps: { disableElevation: true, variant: 'outlined', color: 'inherit' },
      styleOverrides: {
        root: {
          height: 30,
          minWidth: 0,
          padding: '0 12px',
          fontSize: 13,
          fontWeight: 540,
          lineHeight: '28px',
          whiteSpace: 'nowrap',
          '&.Mui-focusVisible': { outline: `2px solid ${tokens.verdigris}`, outlineOffset: 2 },
        },
        sizeSmall: { height: 24, padding: '0 8px', fontSize: 12 },
        outlined: { borderColor: tokens.ruleFirm, backgroundColor: tokens.paper, color: tokens.ink },
        text: { color: tokens.verdigris, padding: '0 4px' },
      },
    },
    MuiTableCell: {
      styleOverrides: {
        root: {
          padding: '0 6px',
          fontSize: 13,
          lineHeight: '16px',
          borderBottom: `1px solid ${tokens.rule}`,
          height: 24,
          whiteSpace: 'nowrap',
          overflow: 'hidden',
          textOverflow: 'ellipsis',
          color: tokens.ink,
        },
        head: {
          fontWeight: 500,
          fontSize: 12,
          lineHeight: '14px',
          color: tokens.inkSoft,
          verticalAlign: 'bottom',
          padding: '6px 6px 5px',
          borderBottom: `1px solid ${tokens.ink}`,
          backgroundColor: tokens.paper,
        },
        footer: {
          fontSize: 13,
          fontWeight: 620,
          color: tokens.ink,
          borderTop: `1px solid ${tokens.ink}`,
          borderBottom: `3px double ${tokens.ink}`,
          height: 28,
        },
      },
    },
    MuiTabs: { styleOverrides: { root: { minHeight: 34 }, indicator: { height: 2, backgroundColor: tokens.ink } } },
    MuiTab: {
      styleOverrides: {
        root: {
          minHeight: 34,
          minWidth: 0,
          padding: '0 0 0 0',
          marginRight: 18,
          fontSize: 13,
          color: tokens.inkSoft,
          '&.Mui-selected': { color: tokens.ink, fontWeight: 600 },
          '&.Mui-focusVisible': { outline: `2px solid ${tokens.verdigris}`, outlineOffset: -2 },
        },
      },
    },
    MuiMenu: { defaultProps: { elevation: 8 }, styleOverrides: { paper: { border: `1px solid ${tokens.ink}` } } },
    MuiMenuItem: { styleOverrides: { root: { fontSize: 13, minHeight: 30, padding: '4px 12px' } } },
    MuiDialog: { styleOverrides: { paper: { border: `1px solid ${tokens.ink}` } } },
    MuiDialogTitle: { styleOverrides: { root: { fontFamily: serif, fontWeight: 600, fontSize: 19, padding: '16px 20px 6px' } } },
    MuiTextField: { defaultProps: { variant: 'standard', fullWidth: true } },
    MuiInputLabel: { styleOverrides: { root: { fontSize: 14, color: tokens.inkSoft } } },
    MuiInput: { styleOverrides: { underline: { '&:before': { borderBottomColor: tokens.ink } } } },
    MuiTooltip: { styleOverrides: { tooltip: { backgroundColor: tokens.ink, color: tokens.paper, fontSize: 12, lineHeight: '16px' } } },
    MuiSlider: { defaultProps: { size: 'small' } },
    MuiLink: { defaultProps: { underline: 'always' } },
  },
})
