<script setup lang="ts">
import type { LayoutView, SlotView } from '@/api/client'

/** A sample layout in three colors. */
defineProps<{ layout: LayoutView; slots: SlotView[]; label: string }>()
</script>

<template>
  <svg :viewBox="`0 0 1 ${layout.height}`" role="img" :aria-label="label">
    <rect
      v-for="(box, at) in layout.boxes"
      :key="`box ${at}`"
      :x="box.x"
      :y="box.y"
      :width="box.width"
      :height="box.height"
      :fill="slots[box.slot]!.hex"
    />
    <text v-for="(line, at) in layout.lines" :key="`line ${at}`" :x="line.x" :y="line.y" :font-size="line.size" :fill="slots[line.slot]!.ink">
      {{ line.text }}
    </text>
  </svg>
</template>

<style scoped>
svg {
  display: block;
  width: 100%;
}
text {
  font-family: 'Commissioner Variable', sans-serif;
  font-weight: 600;
}
</style>
