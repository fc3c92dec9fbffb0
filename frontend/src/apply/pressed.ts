import { ref, watch } from 'vue'

import type { AssetView, PaintView } from '@/api/client'
import { paintAt } from '@/api/pointing'
import { complain } from '@/frame/notices'

/** Where one pressed in a picture that is seen whole in its place, as parts of its width and height; nothing beside it. */
function placeIn(image: HTMLImageElement | null, event: MouseEvent): { x: number; y: number } | undefined {
  if (!image?.naturalWidth) return undefined
  const box = image.getBoundingClientRect()
  const scale = Math.min(box.width / image.naturalWidth, box.height / image.naturalHeight)
  const [width, height] = [image.naturalWidth * scale, image.naturalHeight * scale]
  const x = (event.clientX - box.x - (box.width - width) / 2) / width
  const y = (event.clientY - box.y - (box.height - height) / 2) / height
  return x < 0 || y < 0 || x > 1 || y > 1 ? undefined : { x, y }
}

/** What stands where one pressed in the picture of a file: its paint, and the one element or shape that says it, which
    can go its own way. */
export function usePressed(set: () => string, asset: () => AssetView) {
  const paint = ref<PaintView>()
  const element = ref<{ selector: string; title: string; paints: string[] }>()
  /** Whether what is chosen counts for that element alone. */
  const alone = ref(false)
  watch(
    () => asset().id,
    () => {
      paint.value = element.value = undefined
      alone.value = false
    },
  )

  /** Tells what was pressed, in a look or on a page. */
  async function press(event: MouseEvent, seen: { look?: string; page?: number }): Promise<void> {
    const place = placeIn((event.currentTarget as HTMLElement).querySelector('img'), event)
    if (!place) return
    try {
      const found = await paintAt(set(), asset().id, { ...place, ...seen })
      paint.value = found.paint ?? undefined
      element.value =
        found.paint && found.alone ? { selector: found.alone.selector, title: found.alone.words, paints: [found.paint.key] } : undefined
      alone.value &&= !!element.value
    } catch (problem) {
      complain(problem)
    }
  }
  return { paint, element, alone, press }
}
