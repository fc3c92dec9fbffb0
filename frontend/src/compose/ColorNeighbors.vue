<script setup lang="ts">
import { computed, ref, watch } from 'vue'

import type { ColorView } from '@/api/client'
import { useVariations } from '@/api/queries'

const props = defineProps<{ kitId: string; color: ColorView }>()
const emit = defineEmits<{ replace: [hex: string]; add: [hex: string] }>()

const { data: rows } = useVariations(
  () => props.kitId,
  () => props.color,
)
const chosen = ref<string>()
watch(
  () => props.color.hex,
  () => (chosen.value = undefined),
)

/** The middle of each row stands under the others: empty places fill the shorter side. */
const WIDTH = 7
const placed = computed(() =>
  (rows.value ?? []).map((row) => ({ ...row, before: Math.floor(WIDTH / 2) - row.base })),
)
</script>

<template>
  <section aria-label="Nearby">
    <h2>Nearby</h2>
    <div v-for="row in placed" :key="row.direction" class="row">
      <span class="muted">{{ row.direction }}</span>
      <span class="colors" role="group" :aria-label="row.direction">
        <span v-for="gap in row.before" :key="`gap ${gap}`" />
        <button
          v-for="(hex, at) in row.colors"
          :key="hex"
          v-hint="hex"
          type="button"
          :class="{ base: at === row.base, on: hex === chosen }"
          :style="{ background: hex }"
          :disabled="at === row.base"
          :aria-pressed="hex === chosen"
          :aria-label="at === row.base ? `${hex}, the color itself` : hex"
          @click="chosen = hex"
        />
      </span>
    </div>
    <div v-if="chosen" class="taking">
      <span class="mono">{{ chosen }}</span>
      <v-btn @click="emit('add', chosen)">Take as new</v-btn>
      <v-btn @click="emit('replace', chosen)">Try as base</v-btn>
    </div>
  </section>
</template>

<style scoped>
section {
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
  cursor: default;
}
.on {
  box-shadow:
    inset 0 0 0 2px var(--ink),
    inset 0 0 0 3px var(--panel);
}
.taking {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  align-items: center;
}
.taking .mono {
  width: 100%;
}
</style>
