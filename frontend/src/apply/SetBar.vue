<script setup lang="ts">
import type { KitView } from '@/api/client'

defineProps<{ kit: KitView; setId: string | undefined; view: 'apply' | 'check' | 'hand-over' }>()
defineEmits<{ start: [] }>()
</script>

<template>
  <nav class="sets" aria-label="Sets">
    <router-link
      v-for="entry in kit.sets"
      :key="entry.id"
      :to="{ name: view, params: { kitId: kit.id, setId: entry.id } }"
      :class="{ here: entry.id === setId }"
      :aria-current="entry.id === setId ? 'true' : undefined"
    >
      {{ entry.name }} <span class="mono">{{ entry.files }}</span>
    </router-link>
    <button v-if="view === 'apply'" type="button" @click="$emit('start')">new set…</button>
  </nav>
</template>

<style scoped>
.sets {
  display: flex;
  gap: 4px;
  align-items: end;
  flex: none;
  padding: 6px 16px 0;
  border-bottom: 1px solid var(--rule);
  overflow: auto hidden;
}
a,
button {
  flex: none;
  padding: 4px 10px 5px;
  border: 1px solid transparent;
  border-bottom: 0;
  background: none;
  color: inherit;
  text-decoration: none;
  cursor: pointer;
}
a:hover,
button:hover {
  text-decoration: underline;
}
a:focus-visible,
button:focus-visible {
  outline-offset: -3px;
}
.here {
  margin-bottom: -1px;
  border-color: var(--rule);
  background: var(--panel);
  font-weight: 700;
}
.mono {
  font-weight: 400;
}
button {
  text-decoration: underline;
}
</style>
