<script setup lang="ts">
import { computed } from 'vue'

import type { KitView } from '@/api/client'
import { plain } from '@/parts/picking'
import PickOne from '@/parts/PickOne.vue'
import { type Act, changed, type Settings } from './acts'

/** Gives an act to the files in view, or takes it from them; what each of them has now may differ. */
const props = defineProps<{ act: Act; kit: KitView; settings: Settings | undefined; disabled: boolean }>()
const emit = defineEmits<{ put: [settings: Settings] }>()

const first = computed(() => props.act.fields.find((field) => field.kind === 'choice'))
const lower = computed(() => props.act.title.toLowerCase())
const NONE = 'none'
const options = computed(() => [
  ...plain(first.value?.options ?? [lower.value]),
  { value: NONE, title: props.act.without },
])

function choose(value: string | null): void {
  const change = first.value && value ? { [first.value.name]: value } : {}
  emit('put', value === NONE ? null : changed(props.act, props.kit, props.settings ?? undefined, change))
}
</script>

<template>
  <PickOne
    :label="`${act.title} of these files`"
    :asked="`${lower} for these…`"
    :hint="act.words"
    fleeting
    :disabled="disabled"
    :model-value="null"
    :options="options"
    @update:model-value="choose"
  />
</template>
