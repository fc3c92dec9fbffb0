<script setup lang="ts">
import { computed } from 'vue'

import type { SetView } from '@/api/client'
import { useSetChanges } from '@/api/sets'
import { complain } from '@/frame/notices'
import type { Option } from '@/parts/picking'
import PickOne from '@/parts/PickOne.vue'
import { keyOf, named, type Pair, type Part, pairOptions } from './pairs'

/** A part of mails, such as their footers, on another ground in another ink than the rest, or kept as it came. */
const props = defineProps<{ set: SetView; part: string; label: string; rest: string; pairs: readonly Pair[]; so: Part | undefined; file?: string }>()
const changes = useSetChanges(() => props.set.id)

const REST = 'rest'
const KEPT = 'kept'
const value = computed(() => (props.so?.kept ? KEPT : props.so?.now ? keyOf(props.so.now) : REST))
const options = computed<Option<string>[]>(() => [
  { value: REST, title: props.rest },
  { value: KEPT, title: 'kept as it came' },
  ...pairOptions(props.pairs, props.so?.now),
])

function put(key: string): void {
  const pair = key === REST || key === KEPT ? {} : named(key)
  changes.groundAndInk.mutateAsync({ ...pair, part: props.part, file: props.file, kept: key === KEPT }).catch(complain)
}
</script>

<template>
  <PickOne :label="label" :model-value="value" :options="options" @update:model-value="put" />
</template>
