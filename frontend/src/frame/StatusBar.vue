<script setup lang="ts">
import { useIntervalFn, useOnline } from '@vueuse/core'
import { computed, ref, watch } from 'vue'

import { underway } from '@/api/client'
import { draft } from './history'
import { notice } from './notices'

/** What is on its way is said once it takes longer than one notices. */
const NOTICED = 250
const now = ref(Date.now())
const { pause, resume } = useIntervalFn(() => (now.value = Date.now()), 100, { immediate: false })
watch(
  () => underway.size > 0,
  (waiting) => (waiting ? resume() : pause()),
)
const online = useOnline()
const line = computed(() => {
  const waiting = [...underway.values()]
  if (waiting.some((one) => one.lost)) return 'No answer from Pavese: the last change is kept here and sent again'
  if (!online.value) return 'This computer is offline: changes wait until it is not'
  return waiting.some((one) => now.value - one.since > NOTICED) ? 'Saving…' : ''
})
const saved = computed(() => {
  // Never before it is.
  if (!draft.value || underway.size) return ''
  return `Saved ${new Date(draft.value.savedAt).toLocaleTimeString([], { hour: '2-digit', minute: '2-digit' })}`
})
</script>

<template>
  <footer class="status">
    <span v-if="line" class="line" role="status">{{ line }}</span>
    <span v-else-if="saved">{{ saved }}</span>
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
.line {
  color: var(--ink);
  font-weight: 600;
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
