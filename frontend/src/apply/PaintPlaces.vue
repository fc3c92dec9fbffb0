<script setup lang="ts">
import type { SetView } from '@/api/client'
import { usePlaces } from '@/api/plans'
import SwatchBox from '@/parts/SwatchBox.vue'

/** Where a paint stands in the source of a file, what says it there, and what it becomes. */
const props = defineProps<{ set: SetView; asset: string; paint: string }>()
const { data } = usePlaces(() => props.set, () => props.asset, () => props.paint)
</script>

<template>
  <section v-if="data?.length" class="places" aria-label="Where it stands in the source">
    <p class="small">
      <span class="mono">{{ paint }}</span> is said {{ data.length === 1 ? 'once' : `${data.length} times` }} in the source
    </p>
    <ol class="scrolls" tabindex="0">
      <li v-for="(one, at) in data" :key="at" class="small">
        <SwatchBox :css="one.becomes" :size="12" />
        <span class="mono">{{ one.line }}</span>
        <span>{{ one.said }}</span>
      </li>
    </ol>
  </section>
</template>

<style scoped>
.places {
  flex: none;
  padding-top: 6px;
  border-top: 1px solid var(--rule);
}
ol {
  max-height: 104px;
  margin: 2px 0 0;
  padding: 0;
  list-style: none;
}
li {
  display: grid;
  grid-template-columns: 12px 34px minmax(0, 1fr);
  gap: 6px;
  align-items: baseline;
  overflow-wrap: anywhere;
}
</style>
