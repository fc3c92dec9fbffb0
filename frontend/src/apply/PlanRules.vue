<script setup lang="ts">
import { computed } from 'vue'

import type { KitView, SetView } from '@/api/client'
import { useSetChanges } from '@/api/queries'
import { complain } from '@/frame/notices'

/** One choice for all that does one thing in the set, now and when more comes; what was chosen by hand stays. */
const props = defineProps<{ kit: KitView; set: SetView }>()
const changes = useSetChanges(() => props.set.id)

type Kind = SetView['paints'][number]['kinds'][number]
const kinds = computed(() => {
  const found = new Set<Kind>(props.set.paints.flatMap((paint) => paint.kinds))
  for (const kind of Object.keys(props.set.rules)) found.add(kind as Kind)
  return [...found]
})
const known = (target: string) => props.kit.colors.some((color) => target.startsWith(`${color.key}.`))

function send(kind: Kind, event: Event): void {
  changes.rule.mutateAsync({ kind, target: (event.target as HTMLSelectElement).value || null }).catch(complain)
}
</script>

<template>
  <div v-if="kinds.length" class="rules">
    <span class="small"><strong>Rules</strong> for all that does one thing</span>
    <label v-for="kind in kinds" :key="kind" class="rule">
      <span>every {{ kind }}</span>
      <select class="field" :aria-label="`Where every ${kind} goes`" :value="set.rules[kind] ?? ''" @change="send(kind, $event)">
        <option value="">as planned</option>
        <option value="keep">stays as it is</option>
        <option v-if="set.rules[kind] && set.rules[kind] !== 'keep' && !known(set.rules[kind]!)" :value="set.rules[kind]">
          {{ set.rules[kind] }}
        </option>
        <optgroup v-for="color in kit.colors" :key="color.key" :label="color.name">
          <option v-for="step in color.steps" :key="step.step" :value="`${color.key}.${step.base ? 'base' : step.step}`">
            {{ color.name }} {{ step.base ? 'base' : step.step }}
          </option>
        </optgroup>
      </select>
    </label>
  </div>
</template>

<style scoped>
.rules {
  display: grid;
  gap: 4px;
  padding-top: 6px;
  border-top: 1px solid var(--hair);
}
.rule {
  display: grid;
  grid-template-columns: 84px minmax(0, 1fr);
  gap: 8px;
  align-items: center;
}
</style>
