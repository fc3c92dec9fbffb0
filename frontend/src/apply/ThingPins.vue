<script setup lang="ts">
import { computed, ref, watch } from 'vue'

import { arrow } from '@/parts/arrows'
import { inPicture, type Place, type Press, stepped, type Stroke, type Thing } from './pointing'

/** The places of a thing as pins, dragged or stepped with the arrow keys; and the brush, while it is at hand. */
const props = defineProps<{ thing: Thing; press: Press; width: number; paper: HTMLElement | null }>()
const emit = defineEmits<{ move: [at: number, place: Place | undefined]; stroke: [stroke: Stroke] }>()

const held = ref<{ at: number; place: Place }>()
watch(() => props.thing, () => (held.value = undefined))
const placeOf = (at: number) => (held.value?.at === at ? held.value.place : props.thing.spots[at]!)

function grab(event: PointerEvent): void {
  if (event.button === 0) (event.target as HTMLElement).setPointerCapture(event.pointerId)
}
function drag(event: PointerEvent, at: number): void {
  if ((event.target as HTMLElement).hasPointerCapture(event.pointerId)) held.value = { at, place: inPicture(event, props.paper!) }
}
function letGo(at: number): void {
  if (held.value?.at === at) emit('move', at, held.value.place)
}
function key(event: KeyboardEvent, at: number): void {
  const step = arrow(event)
  if (step) emit('move', at, stepped(placeOf(at), step, event.shiftKey ? 0.05 : 0.005))
  else if (event.key === 'Delete' || event.key === 'Backspace') emit('move', at, undefined)
  else return
  event.preventDefault()
  // The arrows turn to another file everywhere else.
  event.stopPropagation()
}

/** What is being brushed. */
const points = ref<Place[]>([])
const line = computed(() => points.value.map(({ x, y }) => `${x * 100},${y * 100}`).join(' '))
const [MOST, NEXT] = [400, 0.01]
function begin(event: PointerEvent): void {
  if (event.button !== 0) return
  ;(event.currentTarget as HTMLElement).setPointerCapture(event.pointerId)
  points.value = [inPicture(event, props.paper!)]
}
function brush(event: PointerEvent): void {
  const last = points.value.at(-1)
  if (!last || points.value.length >= MOST) return
  const next = inPicture(event, props.paper!)
  // No more places than tell its way: they are all told whenever it is looked for.
  if (Math.hypot(next.x - last.x, next.y - last.y) >= NEXT) points.value = [...points.value, next]
}
function end(): void {
  if (points.value.length) emit('stroke', { adds: props.press === 'adds', width: props.width, points: points.value })
  points.value = []
}
</script>

<template>
  <svg
    v-if="press !== 'place'"
    class="brush"
    viewBox="0 0 100 100"
    preserveAspectRatio="none"
    aria-hidden="true"
    @pointerdown="begin"
    @pointermove="brush"
    @pointerup="end"
    @pointercancel="points = []"
  >
    <polyline v-if="points.length" :points="line" :class="press" vector-effect="non-scaling-stroke" :style="{ strokeWidth: `${width * Math.max(paper?.clientWidth ?? 0, paper?.clientHeight ?? 0)}px` }" />
  </svg>
  <button
    v-for="(_, at) in thing.spots"
    :key="at"
    type="button"
    class="pin mono"
    :style="{ left: `${placeOf(at).x * 100}%`, top: `${placeOf(at).y * 100}%` }"
    :aria-label="`Place ${at + 1} of the thing. Arrow keys move it, Shift further, Delete removes it`"
    @click.stop
    @pointerdown="grab"
    @pointermove="drag($event, at)"
    @pointerup="letGo(at)"
    @keydown="key($event, at)"
  >
    {{ at + 1 }}
  </button>
</template>

<style scoped>
.pin {
  position: absolute;
  z-index: 1;
  min-width: 22px;
  height: 22px;
  margin: -28px 0 0 -11px;
  padding: 0 3px;
  border: 1.5px solid #fff;
  outline: 1.5px solid #000;
  background: #000;
  color: #fff;
  font-size: 11px;
  line-height: 18px;
  text-align: center;
  cursor: grab;
  touch-action: none;
}
/* The foot of a pin stands on the very place. */
.pin::after {
  content: '';
  position: absolute;
  left: 50%;
  top: 20px;
  width: 7px;
  height: 7px;
  margin-left: -3.5px;
  border: 1.5px solid #000;
  box-shadow: 0 0 0 1.5px #fff;
}
.pin:focus-visible {
  z-index: 2;
  box-shadow: 0 0 0 5px var(--ink);
}
.brush {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  cursor: cell;
  touch-action: none;
}
polyline {
  fill: none;
  stroke: #fff;
  stroke-linecap: round;
  stroke-linejoin: round;
  opacity: 0.55;
}
polyline.takes {
  stroke: #000;
}
</style>
