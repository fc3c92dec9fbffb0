<script setup lang="ts">
import { computed, ref, watch } from 'vue'

import type { SetView } from '@/api/client'
import { usePlanAnew } from '@/api/plans'
import { useSetChanges } from '@/api/sets'
import { complain } from '@/frame/notices'
import SwatchBox from '@/parts/SwatchBox.vue'

/** Planning everything anew: what would change is shown before it is taken; undo takes it back. */
const props = defineProps<{ set: SetView }>()
const asked = ref(false)
const { data, error } = usePlanAnew(() => props.set, asked)
watch(error, (problem) => {
  if (!problem) return
  asked.value = false
  complain(problem)
})
watch(
  () => props.set.id,
  () => (asked.value = false),
)
const changes = useSetChanges(() => props.set.id)

const words = computed(() => {
  if (!data.value) return 'Planning…'
  const { changed, total, by_hand: hand } = data.value
  const gone = hand ? `; ${hand} chosen by hand would be forgotten` : ''
  return changed ? `${changed} of ${total} paints would change${gone}.` : `Nothing would change${gone}.`
})

function take(): void {
  asked.value = false
  changes.planAnew.mutateAsync(undefined).catch(complain)
}
</script>

<template>
  <v-btn v-if="!asked" :disabled="!set.paints.length" @click="asked = true">Plan anew…</v-btn>
  <section v-else class="anew" aria-label="Plan anew" aria-live="polite">
    <p class="small">{{ words }}</p>
    <ul v-if="data?.changed" class="scrolls" tabindex="0" aria-label="What would change">
      <li v-for="paint in data.paints" :key="paint.key">
        <SwatchBox :css="paint.css" :size="16" /><span aria-hidden="true">→</span><SwatchBox :css="paint.target_css" :size="16" />
        <span class="small">{{ paint.target_name }} <span class="mono muted">{{ paint.key }}</span></span>
      </li>
      <li v-if="data.changed > data.paints.length" class="small muted">and {{ data.changed - data.paints.length }} more</li>
    </ul>
    <p class="row">
      <v-btn class="strong" :disabled="!data || (!data.changed && !data.by_hand)" @click="take">Take it</v-btn>
      <v-btn @click="asked = false">Leave it</v-btn>
    </p>
  </section>
</template>

<style scoped>
.anew {
  flex: 1 0 100%;
}
ul {
  max-height: 150px;
  margin: 4px 0;
  border-top: 1px solid var(--hair);
  border-bottom: 1px solid var(--hair);
}
li {
  display: flex;
  gap: 6px;
  align-items: center;
  padding: 3px 0;
}
.row {
  display: flex;
  gap: 8px;
}
</style>
