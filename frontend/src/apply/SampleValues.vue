<script setup lang="ts">
import { computed } from 'vue'

import type { SetView } from '@/api/client'
import type { components } from '@/api/schema'
import { useSetChanges } from '@/api/sets'
import { complain } from '@/frame/notices'
import PickOne from '@/parts/PickOne.vue'
import SavedField from '@/parts/SavedField.vue'

/** What is shown in the place of a template's code, and of what it asks, in all of the set; nothing of it is handed
    over. */
const props = defineProps<{
  set: SetView
  codes: readonly string[]
  conditions: readonly components['schemas']['ConditionView'][]
}>()
const changes = useSetChanges(() => props.set.id)
const LONGEST = 400

const counted = computed(() =>
  [
    [props.codes.length, 'code'],
    [props.conditions.length, 'condition'],
  ]
    .filter(([count]) => count)
    .map(([count, word]) => `${count} ${word}${count === 1 ? '' : 's'}`)
    .join(' and '),
)

function put(given: { values?: Record<string, string>; branches?: Record<string, string> }): void {
  changes.samples.mutateAsync({ values: props.set.samples, branches: props.set.branches, ...given }).catch(complain)
}

/** Shows one branch of what is asked, or all of them. */
function show(words: string, branch: string): void {
  const others = Object.entries(props.set.branches).filter(([asked]) => asked !== words)
  put({ branches: Object.fromEntries(branch ? [...others, [words, branch]] : others) })
}
</script>

<template>
  <details class="samples">
    <summary class="small">Sample values for {{ counted }}</summary>
    <label v-for="code in codes" :key="code" class="small">
      <span class="mono">{{ code }}</span>
      <SavedField :value="set.samples[code] ?? ''" :label="`Sample for ${code}`" :longest="LONGEST" @save="put({ values: { ...set.samples, [code]: $event } })" />
    </label>
    <label v-for="one in conditions" :key="one.words" class="small">
      <span>if <span class="mono">{{ one.words }}</span></span>
      <PickOne
        :model-value="set.branches[one.words] ?? ''"
        :label="`Shown of ${one.words}`"
        hint="What of it is seen here; all is changed and handed over"
        :options="[{ value: '', title: 'all of it' }, ...one.branches.map((branch) => ({ value: branch, title: branch }))]"
        @update:model-value="show(one.words, $event)"
      />
    </label>
  </details>
</template>

<style scoped>
label {
  display: grid;
  grid-template-columns: 160px minmax(0, 1fr);
  gap: 8px;
  align-items: center;
  padding-top: 4px;
}
.mono {
  overflow-wrap: anywhere;
}
</style>
