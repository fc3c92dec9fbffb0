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

const nonce = document.querySelector<HTMLMetaElement>('meta[name=csp-nonce]')?.content

export const vuetify = createVuetify({
  icons: { defaultSet: 'mdi', aliases, sets: { mdi } },
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
    VTextField: { variant: 'outlined', hideDetails: 'auto' },
    VTextarea: { variant: 'outlined', hideDetails: true },
    VSelect: { variant: 'outlined', hideDetails: true },
    VCheckboxBtn: { color: undefined },
    VMenu: { transition: false },
    VDialog: { transition: false },
  },
})
