<script setup lang="ts">
import { computed } from 'vue'

import type { KitView, SetView } from '@/api/client'
import { useSetChanges } from '@/api/sets'
import { complain } from '@/frame/notices'
import type { Option } from '@/parts/picking'
import PickOne from '@/parts/PickOne.vue'

/** One choice for all that does one thing in the set, now and when more comes; what was chosen by hand stays. */
const props = defineProps<{ kit: KitView; set: SetView }>()
const changes = useSetChanges(() => props.set.id)

type Kind = SetView['paints'][number]['kinds'][number]
const kinds = computed(() => {
  const found = new Set<Kind>(props.set.paints.flatMap((paint) => paint.kinds))
  for (const kind of Object.keys(props.set.rules)) found.add(kind as Kind)
  return [...found]
})
const steps = computed<Option<string | null>[]>(() =>
  props.kit.colors.flatMap((color) =>
    color.steps.map((step) => {
      const at = step.base ? 'base' : step.step
      return { value: `${color.key}.${at}`, title: `${color.name} ${at}`, hex: step.hex, group: color.name }
    }),
  ),
)
function targets(now: string | undefined): Option<string | null>[] {
  const others: Option<string | null>[] = [
    { value: null, title: 'as planned' },
    { value: 'keep', title: 'stays as it is' },
  ]
  if (now && now !== 'keep' && !steps.value.some((step) => step.value === now)) others.push({ value: now, title: now })
  return [...others, ...steps.value]
}

function send(kind: Kind, target: string | null): void {
  changes.rule.mutateAsync({ kind, target }).catch(complain)
}
</script>

<template>
  <div v-if="kinds.length" class="rules">
    <span class="small"><strong>Rules</strong> for all that does one thing</span>
    <div v-for="kind in kinds" :key="kind" class="rule">
      <span>every {{ kind }}</span>
      <PickOne
        :label="`Where every ${kind} goes`"
        :model-value="set.rules[kind] ?? null"
        :options="targets(set.rules[kind])"
        @update:model-value="(target) => send(kind, target)"
      />
    </div>
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
