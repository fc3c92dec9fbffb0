import { until } from '@vueuse/core'
import { nextTick, ref, type Ref } from 'vue'

import type { KitView, PaintView, SetView } from '@/api/client'
import { useSetChanges } from '@/api/sets'
import { complain } from '@/frame/notices'
import type { Laid } from './AssetTile.vue'

/** Sends paints of a set to targets; the color is laid over the pictures in view until they are drawn with it. */
export function useAiming(
  set: Ref<SetView | undefined>,
  setId: Ref<string | undefined>,
  kit: Ref<KitView | undefined>,
  coming: Ref<boolean>,
) {
  const changes = useSetChanges(setId)
  const laid = ref<Laid>()

  /** The color of a target where it stands somewhere already. */
  function colorOf(paint: PaintView, target: string | undefined): string | undefined {
    if (target === 'keep') return paint.css
    if (target?.startsWith('#')) return target
    const [key, step] = target?.split('.') ?? []
    return kit.value?.colors.find((one) => one.key === key)?.steps.find((one) => (one.base ? 'base' : String(one.step)) === step)?.hex
  }

  /** Aims paints, the first of which was pressed. */
  async function aim(aimed: string[], to: { target?: string; color?: string }): Promise<void> {
    const key = aimed[0]!
    const whole = (paints: PaintView[]) => paints.find((one) => one.key === key && !paints.some((part) => part.key.startsWith(`${key}@`)))
    const lay = (css: string | undefined) => (laid.value = css && !key.includes('@') ? { paint: key, css } : undefined)
    const paint = whole(set.value?.paints ?? [])
    if (paint) lay(colorOf(paint, to.target))
    try {
      const changed = await changes.aim.mutateAsync({ paints: aimed, ...to })
      lay(whole(changed.paints)?.target_css)
    } catch (problem) {
      complain(problem)
    }
    // Once the tiles know which pictures they wait for.
    await nextTick()
    await until(coming).toBe(false)
    laid.value = undefined
  }

  return { laid, aim }
}
