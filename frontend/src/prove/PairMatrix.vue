<script setup lang="ts">
import { useVirtualizer } from '@tanstack/vue-virtual'
import { computed, useTemplateRef } from 'vue'

import type { PairsView } from '@/api/client'
import PennantShape from '@/parts/PennantShape.vue'
import { decisionsOf, decisionWord, levelOf, passes, type At, type Filter } from './pairs'

/** Every pair at once. Only what is in sight is drawn, so that two hundred colors scroll like eight. */
const props = defineProps<{ pairs: PairsView; filter: Filter; chosen: At | undefined }>()
const emit = defineEmits<{ choose: [at: At] }>()

const WIDE = 92
const HIGH = 52
const HEAD = 34
const SIDE = 150
const SPARE = 2

const view = useTemplateRef('view')
const decisions = computed(() => decisionsOf(props.pairs))
const count = computed(() => props.pairs.subjects.length)

const shared = () => ({ count: count.value, getScrollElement: () => view.value, overscan: SPARE })
const across = useVirtualizer(
  computed(() => ({ ...shared(), horizontal: true, estimateSize: () => WIDE, paddingStart: SIDE, scrollPaddingStart: SIDE })),
)
const along = useVirtualizer(
  computed(() => ({ ...shared(), estimateSize: () => HIGH, paddingStart: HEAD, scrollPaddingStart: HEAD })),
)
const columns = computed(() => across.value.getVirtualItems().map((item) => item.index))
const rows = computed(() => along.value.getVirtualItems().map((item) => item.index))

const WORDS = { AAA: 'AAA', AA: 'AA', large: 'large', none: 'no' } as const

function cell(text: number, ground: number) {
  const at = { text, ground }
  const shown = passes(props.pairs, decisions.value, props.filter, at)
  const decision = decisions.value.get(ground * count.value + text)
  const [ink, paper] = [props.pairs.subjects[text]!, props.pairs.subjects[ground]!]
  const level = levelOf(props.pairs, at)
  return {
    id: `pair-${text}-${ground}`,
    shown,
    ink,
    paper,
    ratio: props.pairs.ratios[ground]![text]!,
    level: WORDS[level],
    mark: decision?.reopened && decision.status === 'open' ? 'reopened' : (decision?.status ?? 'open'),
    label: `${ink.name} on ${paper.name}, ${props.pairs.ratios[ground]![text]} to 1, ${WORDS[level]}, ${decisionWord(decision)}`,
    chosen: props.chosen?.text === text && props.chosen.ground === ground,
  }
}

const MOVES: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
}

/** Moves the choice to the next pair that is shown; colors on themselves and what is filtered out are stepped over. */
function move(event: KeyboardEvent): void {
  const by = MOVES[event.key]
  if (!by) return
  event.preventDefault()
  let { text, ground } = props.chosen ?? { text: -1, ground: 0 }
  for (;;) {
    text += by[0]
    ground += by[1]
    if (text < 0 || ground < 0 || text >= count.value || ground >= count.value) return
    if (passes(props.pairs, decisions.value, props.filter, { text, ground })) break
  }
  emit('choose', { text, ground })
  across.value.scrollToIndex(text)
  along.value.scrollToIndex(ground)
}
</script>

<template>
  <div
    ref="view"
    class="matrix scrolls"
    role="grid"
    tabindex="0"
    aria-label="Pairs: each row a ground, each column a text color"
    :aria-rowcount="count + 1"
    :aria-colcount="count + 1"
    :aria-activedescendant="chosen ? `pair-${chosen.text}-${chosen.ground}` : undefined"
    @keydown="move"
  >
    <div class="whole" :style="{ width: `${across.getTotalSize()}px`, height: `${along.getTotalSize()}px` }">
      <div class="heads" role="row" aria-rowindex="1">
        <span class="corner muted small" role="columnheader" aria-colindex="1">ground ↓ text →</span>
        <span
          v-for="text in columns"
          :key="text"
          v-hint="pairs.subjects[text]!.name"
          class="head"
          role="columnheader"
          :aria-colindex="text + 2"
          :style="{ left: `${SIDE + text * WIDE}px` }"
        >
          <PennantShape :role="pairs.subjects[text]!.role" :hex="pairs.subjects[text]!.hex" :width="20" />
          <span class="name">{{ pairs.subjects[text]!.name }}</span>
        </span>
      </div>
      <div
        v-for="ground in rows"
        :key="ground"
        class="row"
        role="row"
        :aria-rowindex="ground + 2"
        :style="{ top: `${HEAD + ground * HIGH}px` }"
      >
        <span v-hint="pairs.subjects[ground]!.name" class="side" role="rowheader" aria-colindex="1">
          <PennantShape :role="pairs.subjects[ground]!.role" :hex="pairs.subjects[ground]!.hex" :width="20" />
          <span class="name">{{ pairs.subjects[ground]!.name }}</span>
        </span>
        <template v-for="text in columns" :key="text">
          <span
            v-for="one in [cell(text, ground)]"
            :id="one.id"
            :key="one.id"
            class="cell"
            :class="{ chosen: one.chosen, off: !one.shown }"
            role="gridcell"
            :aria-colindex="text + 2"
            :aria-selected="one.chosen"
            :aria-label="one.shown ? one.label : 'left out'"
            :style="{ left: `${SIDE + text * WIDE}px` }"
            @click="one.shown && emit('choose', { text, ground })"
          >
            <template v-if="one.shown">
              <span class="pair" :style="{ background: one.paper.seen, color: one.ink.seen }">
                <span class="body">Text</span><span class="large">Aa</span>
              </span>
              <span class="figures" :class="{ weak: one.level === 'no' }">
                <span class="mono">{{ one.ratio }}</span>
                <span>{{ one.level }}</span>
                <i class="mark" :class="one.mark" />
              </span>
            </template>
          </span>
        </template>
      </div>
    </div>
  </div>
</template>

<style scoped>
.matrix {
  flex: 1;
  min-width: 0;
  margin: 0 0 8px 16px;
}
.whole {
  position: relative;
}
.heads {
  position: sticky;
  top: 0;
  z-index: 3;
  height: 34px;
  background: var(--ground);
}
.corner,
.side {
  position: sticky;
  left: 0;
  z-index: 2;
  display: inline-flex;
  gap: 6px;
  align-items: center;
  width: 150px;
  padding-right: 8px;
  background: var(--ground);
}
.corner {
  height: 34px;
}
.side {
  height: 52px;
}
.head {
  position: absolute;
  top: 0;
  display: flex;
  gap: 5px;
  align-items: center;
  width: 88px;
  height: 34px;
}
.name {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  font-size: 12px;
  font-weight: 600;
}
.row {
  position: absolute;
  left: 0;
  width: 100%;
  height: 52px;
}
.cell {
  position: absolute;
  top: 0;
  width: 88px;
  height: 49px;
  border: 1px solid transparent;
  cursor: pointer;
}
.off {
  border-color: var(--hair);
  cursor: default;
}
.chosen {
  outline: 2px solid var(--ink);
  outline-offset: 0;
}
.pair {
  display: flex;
  justify-content: space-between;
  align-items: center;
  height: 30px;
  padding: 0 6px;
}
.body {
  font-size: 12px;
}
.large {
  font-size: 19px;
  font-weight: 700;
}
.figures {
  display: flex;
  gap: 5px;
  align-items: center;
  height: 17px;
  padding: 0 2px;
  font-size: 11px;
  font-weight: 600;
}
.figures .mono {
  font-size: 11px;
}
.weak {
  color: var(--muted);
  font-weight: 400;
}
.mark {
  width: 9px;
  height: 9px;
  margin-left: auto;
}
.mark.approved {
  background: var(--ink);
}
.mark.declined {
  border: 1px solid var(--ink);
  background: linear-gradient(135deg, transparent 44%, var(--ink) 44% 56%, transparent 56%);
}
.mark.reopened {
  border: 1px solid var(--ink);
  background: linear-gradient(90deg, var(--ink) 50%, transparent 50%);
}
</style>
