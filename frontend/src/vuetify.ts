import { createVuetify, type ThemeDefinition } from 'vuetify'
import { aliases, mdi } from 'vuetify/iconsets/mdi-svg'

/** A theme of greys only; every key is given, since the stock themes have hues. */
function greys(dark: boolean, ground: string, panel: string, field: string, ink: string): ThemeDefinition {
  const on = Object.fromEntries(
    ['background', 'surface', 'surface-bright', 'surface-light'].map((key) => [`on-${key}`, ink]),
  )
  const strong = Object.fromEntries(
    ['primary', 'secondary', 'error', 'info', 'success', 'warning', 'surface-variant', 'primary-darken-1', 'secondary-darken-1'].flatMap(
      (key) => [
        [key, ink],
        [`on-${key}`, ground],
      ],
    ),
  )
  return {
    dark,
    colors: { background: ground, surface: panel, 'surface-bright': field, 'surface-light': field, ...on, ...strong },
    variables: {
      'border-color': ink,
      'high-emphasis-opacity': 1,
      'medium-emphasis-opacity': 1,
      'disabled-opacity': 0.6,
      'shadow-key-umbra-opacity': 0,
      'shadow-key-penumbra-opacity': 0,
      'shadow-key-ambient-opacity': 0,
    },
  }
}

/** Signs of our own hand, in a square of 24: boxes by hairlines, a plain chevron. */
const BOX = 'M3 3h18v18H3zM4.4 4.4v15.2h15.2V4.4z'
const BOXES = {
  checkboxOff: `svg:${BOX}`,
  checkboxOn: `svg:${BOX}M7.2 11.4l3.6 3.8 6.6-8 1.2 1-7.7 9.4-4.9-5z`,
  checkboxIndeterminate: `svg:${BOX}M7 11h10v2H7z`,
  dropdown: 'svg:M6.5 9.3l1-1L12 12.9l4.5-4.6 1 1-5.5 5.6z',
}

const nonce = document.querySelector<HTMLMetaElement>('meta[name=csp-nonce]')?.content

export const vuetify = createVuetify({
  icons: { defaultSet: 'mdi', aliases: { ...aliases, ...BOXES }, sets: { mdi } },
  theme: {
    defaultTheme: 'paper',
    cspNonce: nonce,
    themes: {
      paper: greys(false, '#e9e9e9', '#f5f5f5', '#ffffff', '#121212'),
      mid: greys(false, '#8e8e8e', '#999999', '#adadad', '#000000'),
      dark: greys(true, '#151515', '#1e1e1e', '#2a2a2a', '#f2f2f2'),
    },
  },
  defaults: {
    global: { ripple: false, elevation: 0, density: 'compact' },
    VBtn: { variant: 'flat', density: 'default' },
    VTextField: { variant: 'outlined', hideDetails: 'auto', singleLine: true },
    VNumberInput: { variant: 'outlined', hideDetails: true, singleLine: true },
    VTextarea: { variant: 'outlined', hideDetails: true, singleLine: true },
    VSelect: { variant: 'outlined', hideDetails: true, singleLine: true },
    VAutocomplete: { variant: 'outlined', hideDetails: true, singleLine: true },
    VSlider: { hideDetails: true, thumbSize: 18, trackSize: 1 },
    VProgressLinear: { height: 6 },
    VMenu: { transition: false },
    VDialog: { transition: false },
  },
})
