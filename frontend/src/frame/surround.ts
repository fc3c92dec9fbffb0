import { useLocalStorage } from '@vueuse/core'
import { watch } from 'vue'
import { useTheme } from 'vuetify'

export const SURROUNDS = [
  { name: 'paper', label: 'Paper white surround' },
  { name: 'mid', label: 'Mid grey surround' },
  { name: 'dark', label: 'Near black surround' },
] as const

export type Surround = (typeof SURROUNDS)[number]['name']

const chosen = useLocalStorage<Surround>('pavese-surround', 'paper')

/** The surround against which colors are judged; the same everywhere and kept between visits. */
export function useSurround() {
  const theme = useTheme()
  watch(
    chosen,
    (surround) => {
      document.documentElement.dataset.surround = surround
      theme.change(surround)
    },
    { immediate: true },
  )
  return chosen
}
