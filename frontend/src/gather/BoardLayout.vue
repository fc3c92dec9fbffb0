<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core'
import { ref, useTemplateRef, watch } from 'vue'

import type { SourceView } from '@/api/client'
import { pictureAloneUrl } from '@/api/sources'
import { arrow } from '@/parts/arrows'
import SteadyImage from '@/parts/SteadyImage.vue'
import { useFitted } from './fitted'
import { cut, type Edge, EDGES, type Laid, laid, moved, sized } from './laying'

/** The pictures of a board, laid by hand: dragged, sized at a corner, cut at their edges; all of it with arrow keys too. */
const props = defineProps<{ source: SourceView }>()
const chosen = defineModel<string | undefined>('chosen')
const emit = defineEmits<{ lay: [picture: string, laid: Laid] }>()

const region = useTemplateRef('region')
/** Below the pictures there is room to lay one. */
const ROOM = 360
const scale = useFitted(region, () => ({ width: props.source.width, height: props.source.height + ROOM }))

/** The picture on the move: where the hand has it until the board itself says so. */
const held = ref<{ id: string; laid: Laid }>()
watch(() => props.source, () => (held.value = undefined))
const now = (id: string) => (held.value?.id === id ? held.value.laid : laid(props.source.pictures.find((one) => one.id === id)!))

type Grip = Edge | 'place' | 'size'
/** What becomes of a picture when what it is held by goes so far. */
function pulled(one: Laid, grip: Grip, across: number, down: number): Laid {
  const board = props.source.width
  if (grip === 'place') return moved(one, across, down, board)
  if (grip === 'size') return sized(one, Math.abs(across) > Math.abs(down) ? across : (down * one.width) / one.height, board)
  return cut(one, grip, grip === 'left' || grip === 'right' ? across : down, board)
}

let from: { x: number; y: number; id: string; grip: Grip; laid: Laid } | undefined
function grab(event: PointerEvent, id: string, grip: Grip): void {
  if (event.button !== 0) return
  ;(event.currentTarget as HTMLElement).setPointerCapture(event.pointerId)
  chosen.value = id
  from = { x: event.clientX, y: event.clientY, id, grip, laid: now(id) }
}
function drag(event: PointerEvent): void {
  if (!from) return
  const [across, down] = [(event.clientX - from.x) / scale.value, (event.clientY - from.y) / scale.value]
  held.value = { id: from.id, laid: pulled(from.laid, from.grip, across, down) }
}
function put(): void {
  if (held.value) emit('lay', held.value.id, held.value.laid)
}
function letGo(): void {
  if (from) put()
  from = undefined
}

const settle = useDebounceFn(() => !from && put(), 350)
function key(event: KeyboardEvent, id: string, grip: Grip): void {
  const step = arrow(event)
  if (!step) return
  const by = event.shiftKey ? 50 : 5
  held.value = { id, laid: pulled(now(id), grip, step[0] * by, step[1] * by) }
  void settle()
  event.preventDefault()
  event.stopPropagation()
}

const NAMES: Record<Edge, string> = { left: 'Left', top: 'Upper', right: 'Right', bottom: 'Lower' }
const percent = (value: number) => `${value * 100}%`
function ofPart({ left, top, right, bottom }: Laid['part']): Record<string, string> {
  return {
    left: percent(-left / (right - left)),
    top: percent(-top / (bottom - top)),
    width: percent(1 / (right - left)),
    height: percent(1 / (bottom - top)),
  }
}
</script>

<template>
  <div ref="region" class="region scrolls" role="group" aria-label="The board, laid by hand">
    <div
      class="paper"
      data-testid="paper"
      :style="{ width: `${source.width * scale}px`, height: `${(source.height + ROOM) * scale}px` }"
    >
      <div
        v-for="picture in source.pictures"
        :key="picture.id"
        class="piece"
        :class="{ chosen: picture.id === chosen }"
        role="group"
        tabindex="0"
        :aria-label="`${picture.name}. Arrow keys move it, with Shift further`"
        :style="{
          left: `${now(picture.id).x * scale}px`,
          top: `${now(picture.id).y * scale}px`,
          width: `${now(picture.id).width * scale}px`,
          height: `${now(picture.id).height * scale}px`,
        }"
        @focus="chosen = picture.id"
        @pointerdown="grab($event, picture.id, 'place')"
        @pointermove="drag"
        @pointerup="letGo"
        @pointercancel="letGo"
        @keydown.self="key($event, picture.id, 'place')"
      >
        <span class="shown">
          <SteadyImage :src="pictureAloneUrl(source.id, picture)" :alt="picture.name" :style="ofPart(now(picture.id).part)" />
        </span>
      </div>
      <!-- The grips lie over all pictures, also where another one covers the one that they are of. -->
      <div
        v-if="chosen && source.pictures.some((one) => one.id === chosen)"
        class="grips"
        :style="{
          left: `${now(chosen).x * scale}px`,
          top: `${now(chosen).y * scale}px`,
          width: `${now(chosen).width * scale}px`,
          height: `${now(chosen).height * scale}px`,
        }"
      >
        <button
          v-for="grip in [...EDGES, 'size' as const]"
          :key="grip"
          type="button"
          class="grip"
          :class="grip"
          :aria-label="grip === 'size' ? 'Size. Arrow keys change it' : `${NAMES[grip]} edge. Arrow keys cut there`"
          @pointerdown="grab($event, chosen, grip)"
          @pointermove="drag"
          @pointerup="letGo"
          @pointercancel="letGo"
          @keydown="key($event, chosen, grip)"
        />
      </div>
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
  background: var(--field);
}
.piece {
  position: absolute;
  cursor: move;
  touch-action: none;
}
.piece.chosen,
.piece:focus-visible {
  outline: 2px solid var(--ink);
  outline-offset: 2px;
}
.shown {
  position: absolute;
  inset: 0;
  overflow: hidden;
  pointer-events: none;
}
.shown :deep(img) {
  position: absolute;
  max-width: none;
  max-height: none;
  user-select: none;
}
.grips {
  position: absolute;
  pointer-events: none;
}
.grip {
  position: absolute;
  padding: 0;
  border: 1.5px solid #fff;
  outline: 1px solid #000;
  background: #000;
  pointer-events: auto;
  touch-action: none;
}
.grip:focus-visible {
  box-shadow: 0 0 0 5px var(--ink);
}
.left,
.right {
  top: calc(50% - 11px);
  width: 8px;
  height: 22px;
  cursor: ew-resize;
}
.top,
.bottom {
  left: calc(50% - 11px);
  width: 22px;
  height: 8px;
  cursor: ns-resize;
}
.left {
  left: -4px;
}
.right {
  right: -4px;
}
.top {
  top: -4px;
}
.bottom {
  bottom: -4px;
}
.size {
  right: -7px;
  bottom: -7px;
  width: 14px;
  height: 14px;
  cursor: nwse-resize;
}
</style>
