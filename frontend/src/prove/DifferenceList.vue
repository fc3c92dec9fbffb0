<script setup lang="ts">
import { computed } from 'vue'

import type { DifferenceView } from '@/api/client'

const props = defineProps<{ differences: DifferenceView[] }>()
const groups = computed(() => {
  const found = new Map<string, DifferenceView[]>()
  for (const one of props.differences) found.set(one.kind, [...(found.get(one.kind) ?? []), one])
  return [...found]
})
const isPair = (kind: string) => ['pairs gained', 'pairs lost', 'approvals'].includes(kind)
</script>

<template>
  <p v-if="!differences.length" class="muted">They are the same.</p>
  <dl v-else>
    <template v-for="[kind, found] in groups" :key="kind">
      <dt>{{ kind }} <span class="mono muted">{{ found.length }}</span></dt>
      <dd>
        <ul>
          <li v-for="one in found" :key="one.text">
            <span v-if="isPair(kind) && one.before && one.after" class="pair" :style="{ color: one.before, background: one.after }">Aa</span>
            <span v-else-if="one.before || one.after" class="chips" aria-hidden="true">
              <i :class="{ none: !one.before }" :style="{ background: one.before ?? undefined }" />
              <i :class="{ none: !one.after }" :style="{ background: one.after ?? undefined }" />
            </span>
            {{ one.text }}
          </li>
        </ul>
      </dd>
    </template>
  </dl>
</template>

<style scoped>
dl {
  display: grid;
  grid-template-columns: 130px 1fr;
  gap: 8px 14px;
}
dt {
  font-weight: 600;
}
ul {
  display: grid;
  gap: 5px;
}
li {
  display: flex;
  gap: 9px;
  align-items: center;
}
.chips {
  display: inline-flex;
}
.chips i {
  width: 24px;
  height: 18px;
}
.none {
  border: 1px dashed var(--rule);
}
.pair {
  display: inline-grid;
  place-items: center;
  width: 48px;
  height: 20px;
  font-weight: 700;
}
</style>
