import { type MaybeComputedElementRef, useElementSize } from '@vueuse/core'
import { computed, type ComputedRef } from 'vue'

/** How large a picture is shown in a place so that it is seen whole; one that is `read` from top to bottom fills its width. */
export function useFitted(
  place: MaybeComputedElementRef,
  picture: () => { width: number; height: number; read?: boolean },
): ComputedRef<number> {
  const { width: roomX, height: roomY } = useElementSize(place)
  return computed(() => {
    const { width, height, read } = picture()
    const across = (roomX.value - 28) / width
    return read ? across : Math.min(across, (roomY.value - 46) / height, 6)
  })
}
