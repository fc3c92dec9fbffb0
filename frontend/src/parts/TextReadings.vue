<script setup lang="ts">
import type { components } from '@/api/schema'

/** Texts on what they stand on: a sample in the colors as they become, and the ratio before and after; where the file
    has pages (by their selectors), the one on which it is seen can be gone to. */
defineProps<{ texts: components['schemas']['TextReadingView'][]; pages?: Record<string, { title: string; at: number }> }>()
defineEmits<{ see: [page: number] }>()
</script>

<template>
  <ul class="texts" aria-label="Texts on their grounds">
    <li v-for="(one, at) in texts" :key="at">
      <span class="sample" :style="{ background: one.ground, color: one.ink, fontWeight: one.bold ? 700 : 400 }" aria-hidden="true">Aa</span>
      <span class="words">
        <button v-if="pages?.[one.page]" v-hint="pages[one.page]!.title" type="button" class="link" @click="$emit('see', pages[one.page]!.at)">
          {{ pages[one.page]!.at + 1 }}
        </button>
        <span class="said">{{ one.text }}</span>
        <span class="muted small">{{ one.size }} px{{ one.bold ? ' bold' : '' }}{{ one.bare ? ', on what the file is shown on' : one.mixed ? ', at the worst place' : '' }}</span>
      </span>
      <span class="small">
        <span class="mono">{{ one.before }}</span> before, <span class="mono">{{ one.after }}</span> after;
        <strong v-if="one.worse">needs {{ one.needed }}</strong>
        <template v-else-if="!one.reads">needs {{ one.needed }}, as it came</template>
        <template v-else>reads</template>
      </span>
    </li>
  </ul>
</template>

<style scoped>
.texts {
  display: grid;
  gap: 4px;
}
li {
  display: grid;
  grid-template-columns: 40px minmax(0, 1fr) auto;
  gap: 10px;
  align-items: center;
}
.sample {
  padding: 4px 0;
  border: 1px solid var(--hair);
  text-align: center;
}
.words {
  display: flex;
  gap: 8px;
  align-items: baseline;
  min-width: 0;
}
.said {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.words .muted {
  flex: none;
}
</style>
