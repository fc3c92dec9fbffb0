<script setup lang="ts">
import type { FormView } from '@/api/client'

/** Every form in which an edition is taken, as downloads; `path` is where they are, `query` what was chosen. */
defineProps<{ forms: FormView[]; path: string; query: (form: FormView) => string }>()
const NAMES: Record<FormView['form'], string> = {
  sheet: 'PDF sheet',
  card: 'Swatch card, SVG',
  'card-png': 'Swatch card, PNG',
  tokens: 'Design tokens',
  css: 'CSS',
  table: 'CSV',
  deck: 'Deck template, 16:9',
  'deck-4-3': 'Deck template, 4:3',
  'open-deck': 'OpenDocument, 16:9',
  'open-deck-4-3': 'OpenDocument, 4:3',
  mail: 'Plain text',
}
</script>

<template>
  <ul>
    <li v-for="one in forms" :key="one.form">
      <v-btn :class="{ strong: one.form === 'sheet' }" :href="`${path}/${one.form}?${query(one)}`">{{ NAMES[one.form] }}</v-btn>
      <span class="muted">{{ one.about }}</span>
    </li>
  </ul>
</template>

<style scoped>
ul {
  display: grid;
  gap: 8px;
}
li {
  display: grid;
  grid-template-columns: 170px 1fr;
  gap: 12px;
  align-items: center;
}
</style>
