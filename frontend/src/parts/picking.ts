import { ref, watch, type Ref } from 'vue'

import { refusals } from '@/frame/notices'

/** One of several things to choose from; `hex` is shown as a swatch before it, `sample` as letters, `words` below it. */
export interface Option<T> {
  value: T
  title: string
  hex?: string
  sample?: { ground: string; ink: string }
  words?: string
  /** The head that it stands under, with the options beside it that have the same. */
  group?: string
}

interface Named {
  key: string
  name: string
  hex: string
}

/** Options that are called what they are. */
export function plain<T extends string | number>(values: readonly T[]): Option<T>[] {
  return values.map((value) => ({ value, title: String(value) }))
}

/** Options by the words for them. */
export function worded<T extends string>(words: Readonly<Record<T, string>>): Option<T>[] {
  return (Object.entries(words) as [T, string][]).map(([value, title]) => ({ value, title }))
}

/** The colors of a kit by their keys. */
export function colorKeys(colors: readonly Named[]): Option<string>[] {
  return colors.map((color) => ({ value: color.key, title: color.name, hex: color.hex }))
}

/** The bases of a kit's colors by their tokens. */
export function baseTokens(colors: readonly Named[]): Option<string>[] {
  return colors.map((color) => ({ value: `${color.key}.base`, title: color.name, hex: color.hex }))
}

/**
 * What a control shows: what was chosen, at once, and what is so as soon as that is known; after a change that was
 * refused it is what is so again.
 */
export function useShown<T>(value: () => T): Ref<T> {
  const shown = ref(value()) as Ref<T>
  watch([value, refusals], ([now]) => (shown.value = now as T))
  return shown
}
