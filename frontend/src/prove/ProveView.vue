<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRoute } from 'vue-router'

import type { Level, PairView } from '@/api/client'
import { useKit, usePairs } from '@/api/queries'
import ChoiceRow from '@/parts/ChoiceRow.vue'
import EmptyState from '@/parts/EmptyState.vue'
import PennantShape from '@/parts/PennantShape.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import PairCell from './PairCell.vue'

type Filter = 'all' | Level

const route = useRoute()
const kitId = computed(() => route.params.kitId as string)
const { data: kit } = useKit(kitId)
const { data: answer, error, refetch } = usePairs(kit)

const filter = ref<Filter>('all')
const counts = computed(() => answer.value?.counts ?? {})
const options = computed(() => {
  const count = (level: Level) => counts.value[level] ?? 0
  return [
    { value: 'all' as const, label: 'all', count: answer.value?.pairs.length ?? 0 },
    { value: 'AAA' as const, label: 'AAA text, 7', count: count('AAA') },
    { value: 'AA' as const, label: 'AA text, 4.5', count: count('AA') },
    { value: 'large' as const, label: 'large and graphics, 3', count: count('large') },
    { value: 'none' as const, label: 'not readable', count: count('none') },
  ]
})
const table = computed(() => {
  const found = new Map<string, PairView>()
  for (const pair of answer.value?.pairs ?? []) found.set(`${pair.text} ${pair.ground}`, pair)
  return found
})
const colors = computed(() => kit.value?.colors ?? [])
</script>

<template>
  <div class="prove">
    <header>
      <h1>Pairs</h1>
      <ChoiceRow v-model="filter" label="Level" :options="options" />
      <p class="muted">every color as text on every other as ground; ratios are cut, never rounded up</p>
    </header>
    <ProblemNote v-if="error" :error="error" @again="refetch()" />
    <EmptyState v-else-if="kit && colors.length < 2" title="A pair needs two colors">
      With two or more colors in the kit, every pair is shown here as real text on its ground.
      <template #actions>
        <v-btn class="strong" :to="{ name: 'gather', params: { kitId } }">Add colors</v-btn>
      </template>
    </EmptyState>
    <div v-else class="scrolls">
      <table>
        <thead>
          <tr>
            <th scope="col" class="corner muted">ground ↓ text →</th>
            <th v-for="text in colors" :key="text.key" scope="col">
              <PennantShape :role="text.role" :hex="text.hex" :width="26" />
              <span :title="text.name">{{ text.name }}</span>
            </th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="ground in colors" :key="ground.key">
            <th scope="row">
              <PennantShape :role="ground.role" :hex="ground.hex" :width="26" />
              <span :title="ground.name">{{ ground.name }}</span>
            </th>
            <td v-for="text in colors" :key="text.key">
              <PairCell :pair="table.get(`${text.key} ${ground.key}`)" :text="text" :ground="ground" :level="filter" />
            </td>
          </tr>
        </tbody>
      </table>
    </div>
  </div>
</template>

<style scoped>
.prove {
  display: flex;
  flex-direction: column;
  flex: 1;
  min-height: 0;
}
header {
  display: flex;
  gap: 16px;
  align-items: center;
  padding: 12px 16px;
}
header .muted {
  font-size: 12px;
}
.scrolls {
  flex: 1;
  padding: 0 16px 16px;
}
table {
  border-collapse: separate;
  border-spacing: 3px 4px;
}
th {
  font-weight: 600;
  text-align: left;
  font-size: 13px;
}
thead th {
  position: sticky;
  top: 0;
  z-index: 2;
  min-width: 124px;
  padding: 2px 0 4px;
  background: var(--ground);
  white-space: nowrap;
}
th svg {
  vertical-align: middle;
  margin-right: 6px;
}
th span {
  display: inline-block;
  max-width: 90px;
  overflow: hidden;
  text-overflow: ellipsis;
  vertical-align: middle;
  white-space: nowrap;
}
tbody th,
.corner {
  position: sticky;
  left: 0;
  z-index: 1;
  min-width: 128px;
  background: var(--ground);
}
.corner {
  z-index: 3;
  font-weight: 400;
  font-size: 12px;
}
td {
  padding: 0;
  height: 56px;
  border-top: 1px solid var(--hair);
  vertical-align: top;
}
</style>
