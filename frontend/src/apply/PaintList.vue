<script setup lang="ts">
import { computed, nextTick, ref, useTemplateRef } from 'vue'

import type { KitView, PaintView } from '@/api/client'
import { DRAGGED_COLOR } from '@/frame/hand'
import SwatchBox from '@/parts/SwatchBox.vue'
import { goingAlong, inRow, listedRows } from './rows'
import TargetSteps from './TargetSteps.vue'

const props = defineProps<{ kit: KitView; paints: PaintView[]; label?: string }>()
const chosen = defineModel<string | undefined>('chosen')
const pointed = defineModel<string | undefined>('pointed')
/** Rows of near-equals that are open, by the keys of their first paints. */
const opened = defineModel<readonly string[]>('opened', { default: () => [] })
const emit = defineEmits<{
  aim: [paints: string[], to: { target?: string; color?: string }]
  split: [paint: string, part: string]
  join: [key: string]
  keepSelector: [selector: string]
}>()

const listed = computed(() => listedRows(props.paints, opened.value))
const members = (key: string) => inRow(props.paints, key)
function open(key: string): void {
  opened.value = opened.value.includes(key) ? opened.value.filter((one) => one !== key) : [...opened.value, key]
}
const together = (key: string) => goingAlong(props.paints, key, opened.value)
const over = ref<string>()
const list = useTemplateRef('list')
/** The list is one stop of the tabulator; arrow keys go through it. */
const here = ref(0)
const stop = (at: number) => (at === Math.min(here.value, listed.value.length - 1) ? 0 : -1)

function toggle(key: string): void {
  chosen.value = chosen.value === key ? undefined : key
}

function dropColor(event: DragEvent, paint: string): void {
  over.value = undefined
  const color = event.dataTransfer?.getData(DRAGGED_COLOR)
  if (color) emit('aim', together(paint), { color })
}

function step(event: KeyboardEvent, at: number): void {
  const next = { ArrowDown: at + 1, ArrowUp: at - 1, Home: 0, End: listed.value.length - 1 }[event.key]
  if (next === undefined) return
  event.preventDefault()
  const rows = list.value?.querySelectorAll<HTMLElement>('button.paint')
  void nextTick(() => rows?.[Math.min(Math.max(next, 0), listed.value.length - 1)]?.focus())
}

/** Pointed at by a mouse that moves, not by a list that opens under one that rests. A part is marked with its paint: which of the places are its own, only the drawing of it shows. */
function paintOf(paint: PaintView): string {
  return paint.key.split('@')[0]!
}

/** Whether some of a row go elsewhere. */
function apart(paint: PaintView): string {
  const elsewhere = members(paint.key).filter((one) => one.target !== paint.target).length
  return elsewhere ? `, ${elsewhere} to other colors` : ''
}

function places(paint: PaintView): string {
  const behind = opened.value.includes(paint.key) ? [] : members(paint.key)
  const files = behind.length ? (paint.row_files ?? paint.files) : paint.files
  const sites = [paint, ...behind].reduce((total, one) => total + one.sites, 0)
  return `${files} ${files === 1 ? 'file' : 'files'}, ${sites} ${sites === 1 ? 'place' : 'places'}`
}
</script>

<template>
  <ol ref="list" class="scrolls" :aria-label="label ?? 'Paints of the set'" @mouseleave="pointed = undefined">
    <li
      v-for="(paint, at) in listed"
      :key="paint.key"
      :class="{ chosen: chosen === paint.key, over: over === paint.key, part: paint.part !== null || paint.row !== null }"
      @mousemove="pointed = paintOf(paint)"
      @dragover.prevent="over = paint.key"
      @dragleave="over = undefined"
      @drop.prevent.stop="dropColor($event, paint.key)"
    >
      <button
        type="button"
        class="paint"
        :tabindex="stop(at)"
        :aria-expanded="chosen === paint.key"
        :aria-label="`${paint.name} ${paint.key.replace('@', ', only ')}, in ${places(paint)}: goes to ${paint.target_name}`"
        @click="toggle(paint.key)"
        @focus="((here = at), (pointed = paintOf(paint)))"
        @blur="pointed = undefined"
        @keydown="step($event, at)"
      >
        <SwatchBox :css="paint.css" :size="30" />
        <svg width="22" height="12" viewBox="0 0 22 12" aria-hidden="true">
          <path d="M0 6h20M15 1l5 5-5 5" fill="none" stroke="currentColor" stroke-width="1.2" />
        </svg>
        <SwatchBox :css="paint.target_css" :size="30" />
        <span class="words">
          <span class="target">
            {{ paint.target_name }}<em v-if="paint.exception"> here only</em><em v-else-if="paint.by === 'you'"> by hand</em><em v-else-if="paint.by === 'rule'"> by rule</em>
            <em v-if="paint.guest"> guest</em><em v-if="paint.derived"> derived</em><em v-if="paint.natural && paint.target === 'keep'"> natural tone</em>
          </span>
          <span class="source muted">
            <template v-if="paint.part"><span :class="{ mono: paint.part_name === paint.part }">{{ paint.part_name }}</span> of <span class="mono">{{ paintOf(paint) }}</span></template>
            <template v-else><span class="mono">{{ paint.key }}</span> {{ places(paint) }}</template>
          </span>
        </span>
      </button>
      <button
        v-if="paint.part === null && members(paint.key).length"
        type="button"
        class="link small near"
        :aria-expanded="opened.includes(paint.key)"
        @click="open(paint.key)"
      >
        {{ opened.includes(paint.key) ? 'close' : 'and' }} {{ members(paint.key).length }} near-equal{{ apart(paint) }}
      </button>
      <TargetSteps
        v-if="chosen === paint.key"
        :kit="kit"
        :paint="paint"
        @aim="emit('aim', together(paint.key), $event)"
        @split="emit('split', paint.key, $event)"
        @join="emit('join', paint.key)"
        @keep-selector="emit('keepSelector', $event)"
      />
    </li>
  </ol>
</template>

<style scoped>
ol {
  flex: 1;
  min-height: 96px;
  margin: 0 -16px;
}
li {
  border-top: 1px solid var(--hair);
  border-left: 4px solid transparent;
}
li:hover {
  background: var(--field);
}
li.chosen {
  border-left-color: var(--ink);
  background: var(--field);
}
li.part .paint {
  padding-left: 30px;
}
li.over {
  box-shadow: inset 0 0 0 2px var(--ink);
}
.paint {
  display: grid;
  grid-template-columns: 30px 22px 30px 1fr;
  gap: 7px;
  align-items: center;
  width: 100%;
  padding: 5px 14px 5px 12px;
  border: 0;
  background: none;
  text-align: left;
  cursor: pointer;
}
.near {
  margin: 0 0 6px 108px;
}
.paint:focus-visible {
  outline-offset: -3px;
}
.words {
  min-width: 0;
  line-height: 1.25;
}
.words > span {
  display: block;
}
.target {
  font-weight: 600;
}
em {
  font-weight: 400;
  font-size: 12px;
}
.source {
  font-size: 12px;
}
</style>
