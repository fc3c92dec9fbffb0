import { refDebounced } from '@vueuse/core'
import { computed, ref, watch, type Ref } from 'vue'

import type { Only, Order, SetView } from '@/api/client'
import { pixelsFor, useSetFiles, type Listing, type Reach, type Trial } from '@/api/files'
import { useTrial } from '@/api/plans'
import { complain } from '@/frame/notices'

/** Which files of a set are seen, on a ground, in pictures with sides of so many pixels; in which kit, where another is tried. */
export function useListed(set: Ref<SetView | undefined>, ground: Ref<string>, side: Ref<number>) {
  const order = ref<Order>('set')
  const filter = ref<Only>('all')
  const wanted = ref('')
  /** Seen in another kit, to try it. */
  const trial = ref<Trial>()
  const { data: tried, error: untried } = useTrial(set, trial)
  watch(untried, (problem) => problem && complain(problem))
  /** The name that was typed, once the hand rests. */
  const searched = refDebounced(wanted, 150)
  const which = computed(() => ({ only: filter.value, text: searched.value.trim(), ground: ground.value }))
  const listing = computed<Listing>(() => ({ ...which.value, order: order.value, trial: tried.value ? trial.value : undefined }))
  // Before the tiles have told how many fit, a screen of them.
  const reach = ref<Reach>({ there: [0, 0], seen: [0, 47] })
  const { files, coming, error: unlisted } = useSetFiles(set, listing, reach, () => pixelsFor(side.value))
  watch(unlisted, (problem) => problem && complain(problem))
  /** How many there are of what is wanted, once that is known. */
  const found = computed(() => {
    const known = files.value?.listing === listing.value && which.value.text === wanted.value.trim()
    return known ? files.value.total : undefined
  })
  const narrowed = computed(() => which.value.only !== 'all' || !!wanted.value.trim())
  function widen(): void {
    filter.value = 'all'
    wanted.value = ''
  }
  /** All files again, in the set's own kit. */
  function all(): void {
    trial.value = undefined
    widen()
  }
  return { order, filter, wanted, trial, tried, which, listing, reach, files, coming, found, narrowed, widen, all }
}
