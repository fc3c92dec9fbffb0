import { useEventListener, useTimeoutFn } from '@vueuse/core'
import { ref, type Ref } from 'vue'

/** Faster than this many of its own heights in a second, what passes in a box cannot be made out. */
const FAST = 2.5
/** Later than this, in milliseconds, a step is not of the same movement: one jump is no flight, and a flight is over. */
const PAUSE = 100

/** Whether a box is being scrolled so fast that pictures of what passes would be asked for in vain. */
export function useFlight(box: Ref<HTMLElement | null>): Readonly<Ref<boolean>> {
  const flying = ref(false)
  const { start: settle } = useTimeoutFn(() => (flying.value = false), PAUSE, { immediate: false })
  let at = 0
  let when = 0
  useEventListener(
    box,
    'scroll',
    ({ timeStamp }) => {
      const { scrollTop, clientHeight } = box.value!
      const [way, time] = [Math.abs(scrollTop - at), timeStamp - when]
      at = scrollTop
      when = timeStamp
      if (!way || time > PAUSE || way * 1000 < FAST * clientHeight * time) return
      flying.value = true
      settle()
    },
    { passive: true },
  )
  return flying
}
