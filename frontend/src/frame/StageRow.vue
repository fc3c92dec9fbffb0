<script setup lang="ts">
import { computed } from 'vue'
import { useRoute } from 'vue-router'

import type { KitView } from '@/api/client'

const props = defineProps<{ kit: KitView | undefined; kitId: string }>()
const route = useRoute()
/** The kit and the files are handed over in two views of one stage. */
const here = computed(() => (route.name === 'hand-over-kit' ? 'hand-over' : route.name))

const stages = computed(() => {
  const notes = props.kit?.stages
  const entries = [
    ['gather', 'Gather', notes?.gather],
    ['compose', 'Compose', notes?.compose],
    ['prove', 'Prove', notes?.prove],
    ['apply', 'Apply', notes?.apply],
    ['check', 'Check', notes?.check],
    ['hand-over', 'Hand over', notes?.hand_over],
  ] as const
  const setId = route.params.setId as string | undefined
  return entries.map(([name, label, note], at) => ({
    name,
    label,
    note: note ?? '',
    number: at + 1,
    // The set at hand goes along from stage to stage.
    to: { name, params: { kitId: props.kitId, ...(at >= 3 && setId ? { setId } : {}) } },
  }))
})
</script>

<template>
  <nav class="stages" aria-label="Stages">
    <router-link
      v-for="stage in stages"
      :key="stage.name"
      :to="stage.to"
      :class="{ here: here === stage.name }"
      :aria-current="here === stage.name ? 'page' : undefined"
    >
      <span class="name"><span class="number mono">{{ stage.number }}</span> {{ stage.label }}</span>
      <span class="note muted">{{ stage.note }}</span>
    </router-link>
  </nav>
</template>

<style scoped>
.stages {
  display: grid;
  grid-template-columns: repeat(6, 1fr);
  height: 47px;
  border-bottom: 2px solid var(--ink);
  background: var(--panel);
}
a {
  display: flex;
  flex-direction: column;
  justify-content: center;
  padding: 0 16px;
  color: inherit;
  text-decoration: none;
  min-width: 0;
}
a + a {
  border-left: 1px solid var(--hair);
}
a:hover {
  background: var(--field);
}
a:focus-visible {
  outline-offset: -4px;
}
.name {
  font-weight: 700;
}
.here .name {
  text-decoration: underline;
  text-decoration-thickness: 3px;
  text-underline-offset: 3px;
}
.number {
  font-weight: 400;
}
.note {
  font-size: 12px;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
</style>
