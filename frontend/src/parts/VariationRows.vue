<script setup lang="ts">
import { computed } from 'vue'

import { useVariations } from '@/api/composing'

/** A color among its neighbors: lighter, softer, warmer and their opposites; one of them is chosen. */
const props = defineProps<{ hex: string }>()
const chosen = defineModel<string | undefined>({ required: true })
const { data: rows } = useVariations(() => props.hex)

/** The middle of each row stands under the others: empty places fill the shorter side. */
const WIDTH = 7
const placed = computed(() => (rows.value ?? []).map((row) => ({ ...row, before: Math.floor(WIDTH / 2) - row.base })))
</script>

<template>
  <div class="rows">
    <div v-for="row in placed" :key="row.direction" class="row">
      <span class="muted">{{ row.direction }}</span>
      <span class="colors" role="group" :aria-label="row.direction">
        <span v-for="gap in row.before" :key="`gap ${gap}`" />
        <button
          v-for="(one, at) in row.colors"
          :key="one"
          v-hint="one"
          type="button"
          :class="{ base: at === row.base, on: one === chosen }"
          :style="{ background: one }"
          :aria-pressed="one === (chosen ?? hex)"
          :aria-label="at === row.base ? `${one}, the color itself` : one"
          @click="chosen = at === row.base ? undefined : one"
        />
      </span>
    </div>
  </div>
</template>

<style scoped>
.rows {
  display: grid;
  gap: 6px;
}
.row {
  display: grid;
  grid-template-columns: 74px 1fr;
  gap: 6px;
  align-items: center;
  font-size: 11px;
  line-height: 1.1;
}
.colors {
  display: grid;
  grid-template-columns: repeat(7, 1fr);
  gap: 2px;
}
.colors button {
  height: 24px;
  padding: 0;
  border: 0;
  cursor: pointer;
}
.colors .base {
  outline: 2px solid var(--ink);
  outline-offset: 0;
}
.on {
  box-shadow:
    inset 0 0 0 2px var(--ink),
    inset 0 0 0 3px var(--panel);
}
</style>
