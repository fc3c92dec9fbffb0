<script setup lang="ts">
import { computed } from 'vue'

import type { FiguresView } from '@/api/client'

/** A plan's figures, and what it could not keep, in words; what is told elsewhere is not told twice. */
const props = defineProps<{ figures: FiguresView; told?: boolean }>()

const shown = computed(() => [
  { name: 'in kit colors', value: props.figures.kit, why: 'share of the painted area in colors of the kit' },
  { name: 'light stays light', value: props.figures.order, why: 'lighter stays lighter where paints touch (Kendall’s tau, weighted by border)' },
  { name: 'contrast kept', value: props.figures.contrast, why: 'touching pairs that keep the 3:1, or the text level, they had' },
  { name: 'still distinct', value: props.figures.distinct, why: 'pairs of different paints of one file that stay different' },
])
</script>

<template>
  <div class="figures">
    <dl>
      <div v-for="entry in shown" :key="entry.name" v-hint="entry.why">
        <dt class="muted">{{ entry.name }}</dt>
        <dd class="mono" :class="{ short: entry.value < 95 }">{{ entry.value }}%</dd>
      </div>
    </dl>
    <details v-if="figures.remarks.length && !told" class="small">
      <summary>{{ figures.remarks.length }} not kept</summary>
      <ul class="scrolls" tabindex="0" aria-label="What the plan could not keep">
        <li v-for="remark in figures.remarks" :key="remark">{{ remark }}</li>
      </ul>
    </details>
  </div>
</template>

<style scoped>
dl {
  display: grid;
  grid-template-columns: repeat(2, auto);
  gap: 2px 14px;
  justify-content: start;
}
dl div {
  display: flex;
  gap: 5px;
  align-items: baseline;
  justify-content: space-between;
  font-size: 12px;
  white-space: nowrap;
}
.short {
  font-weight: 700;
  text-decoration: underline;
}
details {
  margin-top: 4px;
}
summary {
  cursor: pointer;
}
ul {
  max-height: 96px;
}
li {
  padding: 2px 0;
}
</style>
