<script setup lang="ts">
import { computed } from 'vue'

import type { ColorView, Level, PairView } from '@/api/client'

const props = defineProps<{
  pair: PairView | undefined
  text: ColorView
  ground: ColorView
  level: Level | 'all'
}>()
const WORDS: Record<Level, string> = { AAA: 'AAA', AA: 'AA', large: 'large', none: 'not readable' }
const shown = computed(() => (props.level === 'all' || props.pair?.level === props.level ? props.pair : undefined))
</script>

<template>
  <template v-if="shown">
    <div class="pair" :class="`level-${shown.level}`" :style="{ background: ground.hex, color: text.hex }">
      <span class="body">{{ text.name }} on {{ ground.name }}</span>
      <span class="large" aria-hidden="true">Aa</span>
    </div>
    <div class="figures">
      <span class="mono">{{ shown.ratio }}</span> <span class="level">{{ WORDS[shown.level] }}</span>
    </div>
  </template>
</template>

<style scoped>
.pair {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 4px;
  height: 38px;
  padding: 0 6px;
  overflow: hidden;
}
.body {
  font-size: 12px;
  line-height: 1.15;
}
.large {
  font-size: 22px;
  font-weight: 700;
  line-height: 1;
}
.figures {
  display: flex;
  justify-content: space-between;
  padding: 1px 2px;
  line-height: 1.2;
}
.level {
  font-size: 12px;
}
.level-AAA + .figures .level,
.level-AA + .figures .level {
  font-weight: 700;
}
.level-none + .figures {
  color: var(--muted);
}
</style>
