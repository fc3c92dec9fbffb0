<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core'
import { ref, watch } from 'vue'

import { arrow } from '@/parts/arrows'
import { type Frame, inPicture, movedFrame, type Place } from './pointing'

/** A part of a picture: dragged, sized at its corner, or moved with the arrow keys, and sized with Shift. `label` says
    what it is. */
const props = defineProps<{ region: Frame; paper: HTMLElement | null; label: string }>()
const emit = defineEmits<{ put: [region: Frame] }>()

const frame = ref<Frame>({ ...props.region })
watch(() => props.region, (region) => (frame.value = { ...region }))

let from: { place: Place; frame: Frame; sized: boolean } | undefined
function grab(event: PointerEvent, sized: boolean): void {
  if (event.button !== 0) return
  ;(event.currentTarget as HTMLElement).setPointerCapture(event.pointerId)
  from = { place: inPicture(event, props.paper!), frame: { ...frame.value }, sized }
}
function drag(event: PointerEvent): void {
  if (!from) return
  const { x, y } = inPicture(event, props.paper!)
  frame.value = movedFrame(from.frame, x - from.place.x, y - from.place.y, from.sized)
}
function letGo(): void {
  if (from) emit('put', frame.value)
  from = undefined
}
const settle = useDebounceFn(() => emit('put', frame.value), 350)
function key(event: KeyboardEvent): void {
  const step = arrow(event)
  if (!step) return
  frame.value = movedFrame(frame.value, step[0] * 0.01, step[1] * 0.01, event.shiftKey)
  void settle()
  event.preventDefault()
  event.stopPropagation()
}
</script>

<template>
  <div
    class="frame"
    role="group"
    tabindex="0"
    :aria-label="`${label}. Arrow keys move it, with Shift its size`"
    :style="{ left: `${frame.left * 100}%`, top: `${frame.top * 100}%`, width: `${frame.width * 100}%`, height: `${frame.height * 100}%` }"
    @pointerdown.self="grab($event, false)"
    @pointermove="drag"
    @pointerup="letGo"
    @keydown="key"
  >
    <span class="corner" @pointerdown.stop="grab($event, true)" @pointermove="drag" @pointerup.stop="letGo" />
  </div>
</template>

<style scoped>
.frame {
  position: absolute;
  border: 1.5px dashed #fff;
  outline: 1.5px solid #000;
  cursor: move;
  touch-action: none;
}
.frame:focus-visible {
  box-shadow: 0 0 0 5px var(--ink);
}
.corner {
  position: absolute;
  right: -7px;
  bottom: -7px;
  width: 14px;
  height: 14px;
  border: 1.5px solid #fff;
  background: #000;
  cursor: nwse-resize;
  touch-action: none;
}
</style>
