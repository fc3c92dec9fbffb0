<script setup lang="ts">
import { computed, ref, useTemplateRef } from 'vue'

import type { KitView } from '@/api/client'
import { copy } from '@/frame/notices'
import { useMe } from '@/frame/session'
import PennantShape from '@/parts/PennantShape.vue'

const props = defineProps<{ kit: KitView; chosen: string | undefined }>()
const emit = defineEmits<{ choose: [key: string]; order: [keys: string[]]; own: [color: string, step: number] }>()
const { mayChange } = useMe()

const steps = computed(() => props.kit.columns.map((column) => column.step))

/** Where a bracket over the columns begins and how many it spans. */
function span(from: number | null, to: number | null) {
  if (from === null || to === null) return null
  const start = steps.value.indexOf(from)
  return { gridColumn: `${start + 2} / span ${steps.value.indexOf(to) - start + 1}` }
}

const DRAGGED_ROW = 'application/x-pavese-row'
const over = ref<string>()

/** Puts the dragged color before the one it is dropped on, or behind it when it comes from above. */
function drop(event: DragEvent, onto: string): void {
  over.value = undefined
  const dragged = event.dataTransfer?.getData(DRAGGED_ROW)
  const keys = props.kit.colors.map((color) => color.key)
  if (!dragged || dragged === onto || !keys.includes(dragged)) return
  const to = keys.indexOf(onto)
  const order = keys.filter((key) => key !== dragged)
  order.splice(to, 0, dragged)
  emit('order', order)
}

function dragOver(event: DragEvent, key: string): void {
  if (!event.dataTransfer?.types.includes(DRAGGED_ROW)) return
  event.preventDefault()
  over.value = key
}

/** The table is one stop of the tabulator: in it, arrow keys go from head to step and from row to row. */
const body = useTemplateRef('body')
const at = ref<[number, number]>([0, 0])
const MOVES: Record<string, (row: number, column: number) => [number, number]> = {
  ArrowRight: (row, column) => [row, column + 1],
  ArrowLeft: (row, column) => [row, column - 1],
  ArrowDown: (row, column) => [row + 1, column],
  ArrowUp: (row, column) => [row - 1, column],
  Home: (row) => [row, 0],
  End: (row) => [row, 11],
}
function go(event: KeyboardEvent): void {
  const [row, column] = at.value
  const color = props.kit.colors[row]
  const step = color?.steps[column - 1]
  if (event.key === '+' && step && !step.base && mayChange.value) emit('own', color.key, step.step)
  const to = MOVES[event.key]?.(row, column)
  if (!to) return
  event.preventDefault()
  const clamped: [number, number] = [Math.min(Math.max(to[0], 0), props.kit.colors.length - 1), Math.min(Math.max(to[1], 0), 11)]
  body.value?.querySelector<HTMLElement>(`[data-at="${clamped.join()}"]`)?.focus()
}
function came(event: FocusEvent): void {
  const place = (event.target as HTMLElement).dataset['at']?.split(',').map(Number)
  if (place?.length === 2) at.value = [place[0]!, place[1]!]
}
const stop = (row: number, column: number) => (at.value[0] === row && at.value[1] === column ? 0 : -1)

const dark = computed(() => span(50, props.kit.marks.dark_text_until ?? null))
const white = computed(() => span(props.kit.marks.white_text_from ?? null, 950))
</script>

<template>
  <div class="scrolls">
    <div ref="body" class="table" role="grid" aria-label="Ramps" @keydown="go" @focusin="came">
      <div class="row brackets" aria-hidden="true">
        <span v-if="dark" class="bracket" :style="dark"><i>{{ kit.marks.dark_name }} text reads</i></span>
        <span v-if="white" class="bracket" :style="white"><i>white text reads</i></span>
      </div>
      <div class="row heads" role="row">
        <span class="label" role="columnheader">step<small>against white</small></span>
        <span v-for="column in kit.columns" :key="column.step" class="mono" role="columnheader">
          {{ column.step }}<small>{{ column.contrast }}</small>
        </span>
      </div>
      <div
        v-for="(color, row) in kit.colors"
        :key="color.key"
        class="row ramp"
        :class="{ chosen: color.key === chosen, over: color.key === over }"
        role="row"
        @dragover="dragOver($event, color.key)"
        @dragleave="over = undefined"
        @drop.prevent="drop($event, color.key)"
      >
        <span class="head" role="rowheader">
          <button
            v-hint="'Drag to reorder'"
            type="button"
            class="label"
            draggable="true"
            :aria-current="color.key === chosen || undefined"
            :data-at="`${row},0`"
            :tabindex="stop(row, 0)"
            @dragstart="$event.dataTransfer?.setData(DRAGGED_ROW, color.key)"
            @click="emit('choose', color.key)"
          >
            <PennantShape :role="color.role" :hex="color.hex" :width="30" />
            <span class="words"
              ><strong v-hint="color.name">{{ color.name }}</strong
              ><small>{{ color.role }}</small></span
            >
          </button>
        </span>
        <span v-for="(step, column) in color.steps" :key="step.step" role="gridcell" class="cell">
          <button
            v-hint="`${color.name} ${step.base ? 'base' : step.step}: ${step.hex}, ${step.contrast} against white. Copy`"
            type="button"
            class="step mono"
            :data-at="`${row},${column + 1}`"
            :tabindex="stop(row, column + 1)"
            :class="{ base: step.base, pinned: step.pinned }"
            :style="{ background: step.hex, color: step.ink }"
            :aria-label="`${color.name} ${step.step}${step.base ? ', the base' : step.pinned ? ', pinned' : ''}: copy ${step.hex}`"
            @click="copy(step.hex)"
          >
            <i v-if="color.dark_text_until === step.step" v-hint="'Dark text reads up to here'" class="mark dark-mark" />
            <i v-if="color.white_text_from === step.step" v-hint="'White text reads from here'" class="mark white-mark" />
            {{ step.hex.slice(1) }}
          </button>
          <button
            v-if="mayChange && !step.base"
            v-hint="`Make ${color.name} ${step.step} a color of its own (key +)`"
            type="button"
            class="own"
            tabindex="-1"
            :aria-label="`Make ${color.name} ${step.step} a color of its own`"
            @click="emit('own', color.key, step.step)"
          >
            +
          </button>
        </span>
      </div>
    </div>
  </div>
</template>

<style scoped>
.scrolls {
  flex: 1;
  padding: 0 16px 16px;
}
.table {
  display: grid;
  gap: 2px;
  min-width: 800px;
}
.row {
  display: grid;
  grid-template-columns: 148px repeat(11, minmax(56px, 1fr));
  gap: 2px;
}
.brackets {
  height: 20px;
}
.bracket {
  display: flex;
  justify-content: center;
  height: 8px;
  margin-top: 10px;
  border: 1px solid var(--ink);
  border-bottom: 0;
  margin-inline: 1px;
}
.bracket i {
  height: 16px;
  margin-top: -9px;
  padding: 0 8px;
  background: var(--ground);
  font-style: normal;
  font-size: 12px;
}
.heads span {
  text-align: center;
}
.heads small,
.words small {
  display: block;
  color: var(--muted);
  font-size: 11px;
}
.heads .label {
  text-align: right;
  padding-right: 10px;
  line-height: 1.15;
}
.label {
  display: flex;
  gap: 8px;
  align-items: center;
  min-width: 0;
}
.heads .label {
  display: block;
}
.head {
  min-width: 0;
}
button.label {
  width: 100%;
  height: 46px;
  padding: 0 6px 0 8px;
  border: 0;
  border-left: 3px solid transparent;
  background: none;
  text-align: left;
  cursor: pointer;
}
button.label:hover {
  background: var(--panel);
}
.chosen button.label {
  border-left-color: var(--ink);
  background: var(--panel);
}
.words {
  min-width: 0;
  line-height: 1.2;
}
.words strong {
  display: block;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.cell {
  position: relative;
  display: block;
  height: 46px;
}
.step {
  position: relative;
  display: flex;
  align-items: end;
  justify-content: center;
  width: 100%;
  height: 100%;
  padding: 0 0 3px;
  border: 0;
  font-size: 11px;
  cursor: copy;
}
.own {
  position: absolute;
  top: 0;
  right: 0;
  z-index: 2;
  width: 18px;
  height: 18px;
  padding: 0;
  border: 0;
  background: var(--panel);
  line-height: 1;
  opacity: 0;
  cursor: pointer;
}
.cell:hover .own,
.own:focus-visible {
  opacity: 1;
}
.step:focus-visible {
  z-index: 1;
}
.step.base::before {
  content: '';
  position: absolute;
  inset: 3px;
  border: 2px solid currentColor;
}
.step.pinned::before {
  content: 'pinned';
  position: absolute;
  top: 2px;
  font: 10px 'Commissioner Variable', sans-serif;
}
.over {
  outline: 2px solid var(--ink);
}
.mark {
  position: absolute;
  top: 0;
  width: 0;
  height: 0;
  border: 5px solid transparent;
}
/* A tick at the edge up to which, or from which, text reads on this ramp. */
.dark-mark {
  right: 0;
  border-top-color: currentColor;
  border-right-color: currentColor;
}
.white-mark {
  left: 0;
  border-top-color: currentColor;
  border-left-color: currentColor;
}
</style>
