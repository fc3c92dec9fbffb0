<script setup lang="ts">
import { computed, ref, watch } from 'vue'

import type { SeeThrough, SeeThroughView } from '@/api/client'

/** Chroma along the ramp: of the exact equals, and as it is kept. Its two handles are dragged or stepped by arrows. */
const props = defineProps<{ view: SeeThroughView; fixed: boolean }>()
type Change = Partial<SeeThrough['vividness']>
const emit = defineEmits<{ tryOut: [change: Change]; settle: [change: Change] }>()

const WIDE = 420
const HIGH = 150
const most = computed(() => Math.max(0.05, ...props.view.steps.map((step) => step.full)))
const x = (at: number) => (at / (props.view.steps.length - 1)) * WIDE
const y = (chroma: number) => HIGH - (chroma / most.value) * HIGH
const line = (pick: (step: SeeThroughView['steps'][number]) => number) =>
  props.view.steps.map((step, at) => `${x(at)},${y(pick(step))}`).join(' ')

const vivid = computed(() => props.view.setting.vividness)
const last = computed(() => props.view.steps.at(-1)!)
/** Where the loss begins, counted from the dark end, which is at the right. */
const beginsX = computed(() => WIDE - (vivid.value.begins / 100) * WIDE)
const endY = computed(() => y(last.value.full * (1 - vivid.value.strength / 100)))

const svg = ref<SVGSVGElement>()
type Handle = 'strength' | 'begins'
const held = ref<Handle>()

function at(event: PointerEvent, handle: Handle): Change {
  const box = svg.value!.getBoundingClientRect()
  if (handle === 'begins') {
    const share = 1 - (event.clientX - box.left - 10) / WIDE
    return { begins: Math.round(Math.min(1, Math.max(0.01, share)) * 100) }
  }
  const chroma = ((HIGH - (event.clientY - box.top - 10)) / HIGH) * most.value
  const kept = last.value.full ? chroma / last.value.full : 1
  return { strength: Math.round((1 - Math.min(1, Math.max(0, kept))) * 100) }
}
function down(event: PointerEvent, handle: Handle): void {
  if (props.fixed) return
  held.value = handle
  ;(event.target as Element).setPointerCapture(event.pointerId)
}
function move(event: PointerEvent): void {
  if (held.value) emit('tryOut', at(event, held.value))
}
function up(event: PointerEvent): void {
  if (held.value) emit('settle', at(event, held.value))
  held.value = undefined
}
/** What quick key presses have asked for and the answer does not show yet. */
const asked: Partial<Record<Handle, number>> = {}
watch(vivid, (now) => {
  for (const handle of ['strength', 'begins'] as const) if (asked[handle] === now[handle]) delete asked[handle]
})
function key(event: KeyboardEvent, handle: Handle): void {
  const by = { ArrowUp: -1, ArrowDown: 1, ArrowLeft: 1, ArrowRight: -1 }[event.key]
  if (!by || props.fixed) return
  event.preventDefault()
  const step = event.shiftKey ? 10 : 1
  const floor = handle === 'begins' ? 1 : 0
  const next = Math.min(100, Math.max(floor, (asked[handle] ?? vivid.value[handle]) + by * step))
  asked[handle] = next
  emit('settle', { [handle]: next })
}
</script>

<template>
  <figure>
    <svg ref="svg" :width="WIDE + 20" :height="HIGH + 32" :viewBox="`-10 -10 ${WIDE + 20} ${HIGH + 32}`" @pointermove="move" @pointerup="up">
      <line x1="0" :y1="HIGH" :x2="WIDE" :y2="HIGH" class="axis" />
      <line :x1="beginsX" y1="0" :x2="beginsX" :y2="HIGH" class="begins" />
      <polyline :points="line((step) => step.full)" class="full" />
      <polyline :points="line((step) => step.chroma)" class="kept" />
      <circle v-for="(step, index) in view.steps" :key="step.step" :cx="x(index)" :cy="y(step.chroma)" r="5" :fill="step.solid" class="point" />
      <text v-for="(step, index) in view.steps" :key="`t${step.step}`" :x="x(index)" :y="HIGH + 16">{{ step.step }}</text>
      <circle
        :cx="beginsX"
        cy="0"
        r="7"
        class="handle"
        role="slider"
        tabindex="0"
        aria-label="Where the loss of chroma begins"
        :aria-valuenow="vivid.begins"
        aria-valuemin="1"
        aria-valuemax="100"
        @pointerdown="down($event, 'begins')"
        @keydown="key($event, 'begins')"
      />
      <rect
        :x="WIDE - 7"
        :y="endY - 7"
        width="14"
        height="14"
        class="handle"
        role="slider"
        tabindex="0"
        aria-label="How much chroma is taken at the dark end"
        :aria-valuenow="vivid.strength"
        aria-valuemin="0"
        aria-valuemax="100"
        @pointerdown="down($event, 'strength')"
        @keydown="key($event, 'strength')"
      />
    </svg>
    <figcaption class="small muted">chroma along the ramp; dashed: the exact equals</figcaption>
  </figure>
</template>

<style scoped>
svg {
  touch-action: none;
}
.axis {
  stroke: var(--rule);
}
.begins {
  stroke: var(--ink);
  stroke-dasharray: 2 3;
}
.full {
  fill: none;
  stroke: var(--muted);
  stroke-dasharray: 4 4;
}
.kept {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2;
}
.point {
  stroke: var(--ink);
}
text {
  fill: var(--muted);
  font-size: 10px;
  text-anchor: middle;
}
.handle {
  fill: var(--field);
  stroke: var(--ink);
  stroke-width: 2;
  cursor: grab;
}
</style>
