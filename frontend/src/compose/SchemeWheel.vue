<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, useTemplateRef } from 'vue'

import type { SchemeView } from '@/api/client'
import SteadyImage from '@/parts/SteadyImage.vue'

/** The wheel with its points, the colors of the kit, and the edge of what the screen can show. */
const props = defineProps<{ scheme: SchemeView; wheel: 'perceptual' | 'painters' }>()
const chosen = defineModel<number>('chosen', { required: true })
const emit = defineEmits<{ move: [place: { point: number; x: number; y: number }] }>()

const room = useTemplateRef('room')
const disc = useTemplateRef('disc')
const { width, height } = useElementSize(room)
const side = computed(() => Math.max(Math.min(width.value, height.value), 120))

const lightness = computed(() => Math.round((props.scheme.points[0]?.lightness ?? 0.6) * 100))
const picture = computed(() => `/api/wheel.png?lightness=${lightness.value}&wheel=${props.wheel}&side=480`)
const edge = computed(() => props.scheme.limits.map(([x, y]) => `${x},${-y!}`).join(' '))

const place = (x: number, y: number) => ({ left: `${(x + 1) * 50}%`, top: `${(1 - y) * 50}%` })

function drag(event: PointerEvent, point: number): void {
  if (!(event.target as HTMLElement).hasPointerCapture(event.pointerId)) return
  const box = disc.value!.getBoundingClientRect()
  emit('move', { point, x: ((event.clientX - box.x) / box.width) * 2 - 1, y: 1 - ((event.clientY - box.y) / box.height) * 2 })
}

function grab(event: PointerEvent, point: number): void {
  ;(event.target as HTMLElement).setPointerCapture(event.pointerId)
  chosen.value = point
}

const ARROWS: Record<string, [number, number]> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }

function key(event: KeyboardEvent, at: number): void {
  const step = ARROWS[event.key]
  const point = props.scheme.points[at]
  if (!step || !point) return
  event.preventDefault()
  const by = event.shiftKey ? 0.05 : 0.01
  emit('move', { point: at, x: point.x + step[0] * by, y: point.y + step[1] * by })
}
</script>

<template>
  <div ref="room" class="room">
    <div ref="disc" class="disc" data-testid="wheel" :style="{ width: `${side}px`, height: `${side}px` }">
      <SteadyImage :src="picture" alt="" />
      <svg viewBox="-1 -1 2 2" aria-hidden="true">
        <circle r="0.997" class="rim" />
        <polygon :points="edge" class="edge" />
        <polygon :points="edge" class="edge light" />
        <line v-for="(point, at) in scheme.points" :key="at" x1="0" y1="0" :x2="point.x" :y2="-point.y" />
      </svg>
      <span
        v-for="spot in scheme.spots"
        :key="spot.key"
        v-hint="`${spot.name} of the kit`"
        class="spot"
        :style="{ ...place(spot.x, spot.y), background: spot.hex }"
      />
      <button
        v-for="(point, at) in scheme.points"
        :key="at"
        type="button"
        class="point mono"
        :class="{ on: at === chosen }"
        :style="{ ...place(point.x, point.y), background: point.hex, color: point.ink, borderColor: point.ink }"
        :aria-label="`${at === 0 ? 'Base' : `Point ${at + 1}`}, ${point.hex}, ${point.description}. Arrow keys move it`"
        @focus="chosen = at"
        @pointerdown="grab($event, at)"
        @pointermove="drag($event, at)"
        @keydown="key($event, at)"
      >
        {{ at + 1 }}
      </button>
    </div>
  </div>
</template>

<style scoped>
.room {
  display: grid;
  place-items: center;
  min-width: 0;
  min-height: 0;
  overflow: hidden;
}
.disc {
  position: relative;
}
.disc :deep(img) {
  width: 100%;
  height: 100%;
  pointer-events: none;
}
svg {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
  overflow: visible;
}
.rim,
.edge,
line {
  fill: none;
  stroke: var(--rule);
  stroke-width: 1px;
  vector-effect: non-scaling-stroke;
}
.edge {
  stroke: #000;
}
.edge.light {
  stroke: #fff;
  stroke-dasharray: 4 4;
}
line {
  stroke: var(--ink);
}
.spot {
  position: absolute;
  width: 11px;
  height: 11px;
  margin: -5.5px 0 0 -5.5px;
  border: 1px solid #000;
  outline: 1px solid #fff;
}
.point {
  position: absolute;
  width: 26px;
  height: 26px;
  margin: -13px 0 0 -13px;
  padding: 0;
  border: 2px solid;
  border-radius: 50%;
  font-size: 11px;
  cursor: grab;
  touch-action: none;
}
.point.on {
  z-index: 1;
  box-shadow:
    0 0 0 2px #fff,
    0 0 0 4px #000;
}
</style>
