<script setup lang="ts">
import { computed } from 'vue'

import type { PairsView } from '@/api/client'
import { decisionsOf, decisionWord, levelOf, LEVEL_WORDS, type At } from './pairs'

const props = defineProps<{ pairs: PairsView; shown: At[]; chosen: At | undefined }>()
defineEmits<{ choose: [at: At] }>()

const decisions = computed(() => decisionsOf(props.pairs))
const rows = computed(() => {
  const { subjects, ratios } = props.pairs
  return props.shown.map((at) => ({
    at,
    key: `${at.text} ${at.ground}`,
    ink: subjects[at.text]!,
    paper: subjects[at.ground]!,
    ratio: ratios[at.ground]![at.text]!,
    level: LEVEL_WORDS[levelOf(props.pairs, at)],
    decision: decisionWord(decisions.value.get(at.ground * subjects.length + at.text)),
    chosen: props.chosen?.text === at.text && props.chosen.ground === at.ground,
  }))
})
</script>

<template>
  <v-virtual-scroll class="list" :items="rows" :item-height="50" item-key="key">
    <template #default="{ item }">
      <button type="button" class="row" :class="{ chosen: item.chosen }" :aria-pressed="item.chosen" @click="$emit('choose', item.at)">
        <span class="pair" :style="{ background: item.paper.seen, color: item.ink.seen }">
          <span class="body">{{ item.ink.name }} on {{ item.paper.name }}</span>
          <span class="large">Large</span>
          <svg width="20" height="20" viewBox="0 0 20 20" aria-hidden="true" fill="none" stroke="currentColor" stroke-width="2">
            <path d="M2 13h16l-3 5H5zM10 11V2l6 8z" />
          </svg>
          <span class="press" :style="{ background: item.ink.seen, color: item.paper.seen }">Press</span>
        </span>
        <span class="mono ratio">{{ item.ratio }}</span>
        <span class="level">{{ item.level }}</span>
        <span class="muted">{{ item.decision }}</span>
      </button>
    </template>
  </v-virtual-scroll>
</template>

<style scoped>
.list {
  flex: 1;
  min-height: 0;
  padding: 0 0 8px 16px;
}
.row {
  display: grid;
  grid-template-columns: minmax(300px, 1fr) 54px 150px 170px;
  gap: 12px;
  align-items: center;
  width: 100%;
  height: 50px;
  padding: 3px;
  border: 0;
  background: none;
  text-align: left;
  cursor: pointer;
}
.chosen {
  outline: 2px solid var(--ink);
  outline-offset: -2px;
}
.pair {
  display: flex;
  gap: 14px;
  align-items: center;
  height: 44px;
  padding: 0 12px;
  overflow: hidden;
  white-space: nowrap;
}
.body {
  flex: 1;
  overflow: hidden;
  text-overflow: ellipsis;
}
.large {
  font-size: 24px;
  font-weight: 700;
}
.pair svg {
  flex: none;
}
.press {
  padding: 4px 12px;
  font-size: 13px;
  font-weight: 600;
}
.ratio {
  text-align: right;
  font-size: 13px;
}
</style>
