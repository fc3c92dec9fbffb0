<script setup lang="ts">
import { ref, watch } from 'vue'

import type { ColorView } from '@/api/client'
import { useReading } from '@/api/composing'

/** What a color stands for in this company, and how its hue is often read elsewhere. */
const props = defineProps<{ color: ColorView }>()
const emit = defineEmits<{ note: [note: string] }>()
const { data: reading } = useReading(() => props.color.hex)
const note = ref('')
watch(() => props.color.note, (now) => (note.value = now), { immediate: true })
</script>

<template>
  <section aria-label="Meaning">
    <h2>Meaning</h2>
    <v-textarea
      v-model="note"
      class="field"
      rows="3"
      maxlength="2000"
      aria-label="Note on the color"
      placeholder="What it stands for, for whom, where not to use it"
      @change="note !== color.note && emit('note', note)"
    />
    <details v-if="reading">
      <summary>How {{ reading.hue }} is often read</summary>
      <p class="muted">{{ reading.guidance }}</p>
      <p>{{ reading.general }}</p>
      <ul>
        <li v-for="line in reading.regions" :key="line">{{ line }}</li>
        <li v-for="line in reading.trades" :key="line">{{ line }}</li>
      </ul>
      <p>{{ reading.mind }}</p>
    </details>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 6px;
}
details p,
li {
  margin-top: 5px;
  font-size: 12px;
}
li {
  padding-left: 8px;
  border-left: 2px solid var(--rule);
}
</style>
