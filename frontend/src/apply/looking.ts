import { computed, ref } from 'vue'

import type { AssetView } from '@/api/client'

export type How = 'devices' | 'beside' | 'divider' | 'sizes' | 'motion' | 'pointed'

/** The ways in which a file can be looked at, and the one in which it is: that last chosen which it can be. */
export function useHow(asset: () => AssetView) {
  const wanted = ref<How>()
  const views = computed<{ value: How; label: string }[]>(() => {
    const can = (one: AssetView['can'][number]) => asset().can.includes(one)
    // A mail is seen as its readers do, wide and on a phone, whole; a drawing in all sizes.
    const [laidOut, slides] = [can('laid out'), can('slides')]
    // Things in a still picture made of pixels can be pointed at; one that moves is given no ground either.
    const pointable = can('pixels') && 'picture-ground' in asset().acts
    return [
      ...(laidOut ? [{ value: 'devices' as const, label: 'as readers see it' }] : []),
      { value: 'beside' as const, label: laidOut ? 'before and after' : 'side by side' },
      { value: 'divider' as const, label: 'divider' },
      ...(laidOut || slides ? [] : [{ value: 'sizes' as const, label: 'in all sizes' }]),
      ...(pointable ? [{ value: 'pointed' as const, label: 'things, parts, headline, tones' }] : []),
      ...(can('motion') ? [{ value: 'motion' as const, label: 'in motion' }] : []),
    ]
  })
  const how = computed<How>({
    get: () => (views.value.some((one) => one.value === wanted.value) ? wanted.value! : views.value[0]!.value),
    set: (one) => (wanted.value = one),
  })
  return { views, how }
}
