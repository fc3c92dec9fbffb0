<script setup lang="ts">
import { computed } from 'vue'

import type { components } from '@/api/schema'

/** How the texts of a set read, in a line. */
const props = defineProps<{ reading: components['schemas']['ReadingFigures'] }>()

const told = computed(() => {
  const { texts, read, lost, unknown } = props.reading
  const weak = texts - unknown - read - lost
  return [
    `${read} of ${texts} kinds of text read`,
    ...(lost ? [`${lost} read less well than before`] : []),
    ...(weak ? [`${weak} did not before either`] : []),
    ...(unknown ? [`${unknown} on pictures or mixtures that are not followed`] : []),
  ].join('; ')
})
</script>

<template>
  <p class="small" :class="{ short: reading.lost }" role="status">{{ told }}.</p>
</template>

<style scoped>
.short {
  font-weight: 600;
}
</style>
