import { useInfiniteScroll } from '@vueuse/core'
import { computed, ref, type Ref } from 'vue'

/**
 * The first of many items, and more while the last of them is being scrolled to: however long a list is, it is there at
 * once. `restart` begins anew, at the top.
 */
export function useStepwise<T>(region: Ref<HTMLElement | null>, items: () => readonly T[], atOnce: number) {
  const made = ref(atOnce)
  useInfiniteScroll(region, () => void (made.value += atOnce), {
    distance: 1500,
    canLoadMore: () => made.value < items().length,
  })
  function restart(): void {
    made.value = atOnce
    region.value?.scrollTo(0, 0)
  }
  return { shown: computed(() => items().slice(0, made.value)), restart }
}
