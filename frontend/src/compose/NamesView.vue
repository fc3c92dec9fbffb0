<script setup lang="ts">
import { computed, ref, watch } from 'vue'

import type { KitView } from '@/api/client'
import { useComposing, useSuggestedNames, useThemes } from '@/api/composing'
import { complain, say } from '@/frame/notices'
import { tooLong } from '@/parts/lengths'
import { plain } from '@/parts/picking'
import PickOne from '@/parts/PickOne.vue'
import TickBox from '@/parts/TickBox.vue'

/** Names for all colors from a theme, to be edited and given in one step. */
const props = defineProps<{ kit: KitView }>()
const theme = ref('harbor')
const { data: themes } = useThemes()
const { data: suggested } = useSuggestedNames(
  () => props.kit,
  () => theme.value,
)
const { names } = useComposing(() => props.kit.id)

const rows = ref<{ key: string; hex: string; old: string; name: string; ticked: boolean }[]>([])
watch(
  suggested,
  (found) => (rows.value = (found ?? []).map((entry) => ({ ...entry, ticked: entry.name !== entry.old }))),
  { immediate: true },
)
const ticked = computed(() => rows.value.filter((row) => row.ticked && row.name.trim() && !tooLong(row.name)))

function give(): void {
  const count = ticked.value.length
  names
    .mutateAsync(Object.fromEntries(ticked.value.map((row) => [row.key, row.name])))
    .then(() => say(`${count} ${count === 1 ? 'color' : 'colors'} renamed`), complain)
}
</script>

<template>
  <section class="names scrolls" aria-labelledby="names-title">
    <header>
      <h1 id="names-title">Names</h1>
      <span>from</span>
      <PickOne v-model="theme" class="theme" label="Theme" :options="plain(themes ?? [])" />
      <v-btn class="strong" :disabled="!ticked.length" @click="give">Rename {{ ticked.length }}</v-btn>
      <p class="muted small">Keys in files and tokens stay; only what people read changes.</p>
    </header>
    <table class="listing">
      <thead>
        <tr>
          <th><span class="unseen">rename</span></th>
          <th>color</th>
          <th>now</th>
          <th>suggested</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in rows" :key="row.key">
          <td><TickBox v-model="row.ticked" :aria-label="`Rename ${row.old}`" /></td>
          <td><i :style="{ background: row.hex }" /><span class="mono">{{ row.hex }}</span></td>
          <td>{{ row.old }}</td>
          <td><v-text-field v-model="row.name" class="field" :error-messages="tooLong(row.name)" :aria-label="`New name of ${row.old}`" /></td>
        </tr>
      </tbody>
    </table>
  </section>
</template>

<style scoped>
.names {
  flex: 1;
  padding: 10px 16px 16px;
}
header {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 12px;
  align-items: center;
  padding-bottom: 8px;
}
table {
  max-width: 860px;
}
td:nth-child(2) {
  display: flex;
  gap: 10px;
  align-items: center;
}
i {
  width: 56px;
  height: 30px;
}
.theme {
  flex: 0 0 150px;
}
</style>
