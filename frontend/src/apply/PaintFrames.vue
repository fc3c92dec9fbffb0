<script setup lang="ts">
import { computed } from 'vue'

import type { components } from '@/api/schema'

/** Where a paint stands on a page: frames round what is shown in it, over a picture of the page that is seen whole. */
const props = defineProps<{ on: components['schemas']['PageFrames'] | undefined; paint: string | undefined }>()
/** The frames stand a little outside of what they frame, and never off the page. */
const ROOM = 2
const boxes = computed(() => {
  const { paint, on } = props
  const found = (paint && on?.paints[paint.split('@')[0]!]) || []
  return found.map(({ left, top, width, height }) => {
    const [x, y] = [Math.max(left - ROOM, 1), Math.max(top - ROOM, 1)]
    const [right, bottom] = [Math.min(left + width + ROOM, on!.columns - 1), Math.min(top + height + ROOM, on!.rows - 1)]
    return { x, y, width: right - x, height: bottom - y }
  })
})
</script>

<template>
  <svg v-if="on && boxes.length" class="frames" :viewBox="`0 0 ${on.columns} ${on.rows}`" aria-hidden="true" data-testid="frames">
    <template v-for="stroke in ['outer', 'inner']" :key="stroke">
      <rect
        v-for="(box, at) in boxes"
        :key="at"
        :class="stroke"
        v-bind="box"
        vector-effect="non-scaling-stroke"
      />
    </template>
  </svg>
</template>

<style scoped>
.frames {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
}
rect {
  fill: none;
}
.outer {
  stroke: #fff;
  stroke-width: 4px;
}
.inner {
  stroke: #000;
  stroke-width: 1.5px;
}
</style>
