<script setup lang="ts">
import { computed, ref } from 'vue'

import type { Drop } from './upload'

const props = defineProps<{ drop: Drop }>()
defineEmits<{ close: [] }>()

/** What was refused by its reason, the rarest first: a folder may hold many files of a kind that is not taken. */
const reasons = computed(() => {
  const found = new Map<string, string[]>()
  for (const { name, reason } of props.drop.refused) found.set(reason, [...(found.get(reason) ?? []), name])
  return [...found].sort(([, one], [, other]) => one.length - other.length)
})
const unlisted = computed(() => (props.drop.refusals ?? 0) - props.drop.refused.length)

const bringing = ref(false)
async function bring(): Promise<void> {
  bringing.value = true
  await props.drop.elsewhere?.bring().finally(() => (bringing.value = false))
}
</script>

<template>
  <div class="drop" role="status">
    <div class="head">
      <strong v-if="drop.words">{{ drop.words }}</strong>
      <strong v-else-if="drop.running">Taking {{ drop.done }} of {{ drop.total }} files…</strong>
      <strong v-else>{{ drop.taken }} taken, {{ drop.refusals ?? drop.refused.length }} refused</strong>
      <progress v-if="drop.running" :value="drop.done" :max="drop.total" aria-label="Files taken" />
      <v-btn v-if="drop.finish" @click="drop.finish()">Finish with these</v-btn>
      <v-btn v-else-if="drop.running" @click="drop.cancel()">Cancel</v-btn>
      <template v-else>
        <v-btn v-if="drop.elsewhere" :disabled="bringing" @click="bring">{{ drop.elsewhere.words }}</v-btn>
        <v-btn @click="$emit('close')">Close</v-btn>
      </template>
    </div>
    <ul v-if="drop.refused.length" class="scrolls">
      <li v-for="[reason, names] in reasons" :key="reason">
        <strong>{{ names.length > 1 ? `${names.length} files` : names[0] }}</strong> {{ reason }}
        <div v-if="names.length > 1" class="muted small">{{ names.join(', ') }}</div>
      </li>
      <li v-if="unlisted > 0">and {{ unlisted }} more</li>
    </ul>
  </div>
</template>

<style scoped>
.drop {
  margin: 0 16px 8px;
  padding: 8px 12px;
  border: 1px solid var(--ink);
  border-left-width: 4px;
  background: var(--panel);
}
.head {
  display: flex;
  gap: 12px;
  align-items: center;
}
progress {
  flex: 1;
  height: 8px;
  accent-color: var(--strong);
}
.head strong {
  margin-right: auto;
}
ul {
  max-height: 130px;
  margin-top: 6px;
}
li {
  padding: 2px 0;
  font-size: 13px;
}
</style>
