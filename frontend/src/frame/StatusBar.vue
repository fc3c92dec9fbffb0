<script setup lang="ts">
import { computed } from 'vue'

import { draft } from './history'
import { notice } from './notices'

const saved = computed(() => {
  if (!draft.value) return ''
  return `Saved ${new Date(draft.value.savedAt).toLocaleTimeString([], { hour: '2-digit', minute: '2-digit' })}`
})
</script>

<template>
  <footer class="status">
    <span v-if="saved">{{ saved }}</span>
    <span v-if="draft?.undo" class="last">last change: {{ draft.undo }}</span>
    <span class="said" role="status">
      <template v-if="notice && !notice.problem">{{ notice.text }}</template>
    </span>
    <span class="problem" role="alert">
      <template v-if="notice?.problem">
        {{ notice.text }} <span v-if="notice.id" class="mono">(problem {{ notice.id }})</span>
        <button type="button" @click="notice = null">close</button>
      </template>
    </span>
  </footer>
</template>

<style scoped>
.status {
  display: flex;
  gap: 22px;
  align-items: center;
  flex: none;
  height: 26px;
  padding: 0 16px;
  border-top: 1px solid var(--rule);
  background: var(--panel);
  color: var(--muted);
  font-size: 12px;
  white-space: nowrap;
  overflow: hidden;
}
.last {
  max-width: 45%;
  overflow: hidden;
  text-overflow: ellipsis;
}
.problem {
  color: var(--ink);
  font-weight: 600;
}
button {
  border: 0;
  background: none;
  text-decoration: underline;
  cursor: pointer;
}
</style>
