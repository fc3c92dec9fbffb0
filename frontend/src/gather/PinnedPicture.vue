<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core'
import { ref, useTemplateRef, watch } from 'vue'

import type { PinView, SourceView } from '@/api/client'
import { sourcePictureUrl } from '@/api/sources'
import { arrow } from '@/parts/arrows'
import SteadyImage from '@/parts/SteadyImage.vue'
import { useFitted } from './fitted'

/** A picture with its numbered pins: dragged, stepped with the arrow keys, set by a click, removed with Delete. */
const props = defineProps<{ source: SourceView }>()
const chosen = defineModel<number | undefined>('chosen')
const emit = defineEmits<{
  point: [at: Place | undefined]
  set: [at: Place]
  move: [number: number, at: Place]
  remove: [number: number]
}>()
interface Place {
  x: number
  y: number
}

const region = useTemplateRef('region')
const paper = useTemplateRef('paper')
const scale = useFitted(region, () => ({ ...props.source, read: props.source.kind === 'page' }))

/** A pin on the move: where the hand has it until the source itself says so. */
const held = ref<{ number: number } & Place>()
watch(() => props.source, () => (held.value = undefined))
let dragged = false

function placeOf(pin: PinView): Place {
  return held.value?.number === pin.number ? held.value : pin
}

function at(event: PointerEvent | MouseEvent): Place {
  const box = paper.value!.getBoundingClientRect()
  return inside({ x: Math.floor((event.clientX - box.x) / scale.value), y: Math.floor((event.clientY - box.y) / scale.value) })
}

function inside(place: Place): Place {
  return {
    x: Math.min(Math.max(place.x, 0), props.source.width - 1),
    y: Math.min(Math.max(place.y, 0), props.source.height - 1),
  }
}

function grab(event: PointerEvent, pin: PinView): void {
  if (event.button !== 0) return
  ;(event.target as HTMLElement).setPointerCapture(event.pointerId)
  chosen.value = pin.number
  dragged = false
}

function drag(event: PointerEvent, pin: PinView): void {
  if (!(event.target as HTMLElement).hasPointerCapture(event.pointerId)) return
  dragged = true
  held.value = { number: pin.number, ...at(event) }
  emit('point', held.value)
}

function letGo(pin: PinView): void {
  if (dragged && held.value) emit('move', pin.number, { x: held.value.x, y: held.value.y })
  dragged = false
}

const settle = useDebounceFn(() => {
  if (held.value && !dragged) emit('move', held.value.number, { x: held.value.x, y: held.value.y })
}, 350)

function key(event: KeyboardEvent, pin: PinView): void {
  const step = arrow(event)
  if (step) {
    const by = event.shiftKey ? 10 : 1
    const from = placeOf(pin)
    held.value = { number: pin.number, ...inside({ x: from.x + step[0] * by, y: from.y + step[1] * by }) }
    emit('point', held.value)
    void settle()
  } else if (event.key === 'Delete' || event.key === 'Backspace') emit('remove', pin.number)
  else return
  event.preventDefault()
}
</script>

<template>
  <div ref="region" class="region scrolls" role="group" aria-label="The picture and its pins" tabindex="0">
    <div
      ref="paper"
      class="paper"
      :class="{ board: source.kind === 'board' }"
      data-testid="paper"
      :style="{ width: `${source.width * scale}px`, height: `${source.height * scale}px` }"
      @pointermove.self="emit('point', at($event))"
      @pointerleave="emit('point', undefined)"
      @click.self="emit('set', at($event))"
    >
      <SteadyImage :src="sourcePictureUrl(source)" :alt="source.name" />
      <button
        v-for="pin in source.pins.filter((one) => one.seen)"
        :key="pin.number"
        type="button"
        class="pin mono"
        :class="{ chosen: pin.number === chosen }"
        :style="{
          left: `${(placeOf(pin).x + 0.5) * scale}px`,
          top: `${(placeOf(pin).y + 0.5) * scale}px`,
          background: pin.answer.hex,
          color: pin.ink,
          borderColor: pin.ink,
          outlineColor: pin.answer.hex,
        }"
        :aria-label="`Pin ${pin.number}, ${pin.answer.hex}. Arrow keys move it, Shift ten pixels, Delete removes it`"
        @focus="chosen = pin.number"
        @pointerdown="grab($event, pin)"
        @pointermove="drag($event, pin)"
        @pointerup="letGo(pin)"
        @keydown="key($event, pin)"
      >
        {{ pin.number }}
      </button>
    </div>
  </div>
</template>

<style scoped>
.region {
  flex: 1;
  min-width: 0;
  padding: 32px 14px 14px;
}
.paper {
  position: relative;
  margin: 0 auto;
  cursor: crosshair;
  /* Under a see-through picture a grid of greys shows. */
  background: repeating-conic-gradient(#d6d6d6 0 25%, #f2f2f2 0 50%) 0 0 / 16px 16px;
}
.paper.board {
  background: var(--field);
}
.paper :deep(img) {
  width: 100%;
  height: 100%;
  pointer-events: none;
  user-select: none;
}
.pin {
  position: absolute;
  min-width: 22px;
  height: 22px;
  margin: -28px 0 0 -11px;
  padding: 0 3px;
  border: 1.5px solid;
  outline: 1.5px solid;
  font-size: 11px;
  line-height: 18px;
  text-align: center;
  cursor: grab;
  touch-action: none;
}
/* The foot of a pin stands on the very pixel that is sampled. */
.pin::after {
  content: '';
  position: absolute;
  left: 50%;
  top: 20px;
  width: 7px;
  height: 7px;
  margin-left: -3.5px;
  border: 1.5px solid #000;
  background: transparent;
  box-shadow: 0 0 0 1.5px #fff;
}
.pin.chosen {
  z-index: 1;
  box-shadow: 0 0 0 5px var(--ink);
}
.pin:active {
  cursor: grabbing;
}
</style>
