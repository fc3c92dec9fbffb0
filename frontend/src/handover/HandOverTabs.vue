<script setup lang="ts">
defineProps<{ kitId: string; view: 'files' | 'kit' }>()
</script>

<template>
  <nav class="tabs" aria-label="What is handed over">
    <router-link :to="{ name: 'hand-over', params: { kitId } }" :class="{ on: view === 'files' }" :aria-current="view === 'files' ? 'page' : undefined">
      recolored files
    </router-link>
    <router-link :to="{ name: 'hand-over-kit', params: { kitId } }" :class="{ on: view === 'kit' }" :aria-current="view === 'kit' ? 'page' : undefined">
      the kit
    </router-link>
  </nav>
</template>

<style scoped>
.tabs {
  display: inline-flex;
  margin: 10px 16px 0;
  border: 1px solid var(--ink);
  align-self: start;
}
a {
  padding: 4px 12px;
  background: var(--field);
  color: inherit;
  font-size: 13px;
  text-decoration: none;
}
.on {
  background: var(--strong);
  color: var(--on-strong);
  font-weight: 600;
}
</style>
