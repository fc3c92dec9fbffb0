<script setup lang="ts">
import { computed } from 'vue'

import type { KitView } from '@/api/client'
import { type Act, changed, type Settings } from './acts'

/** Gives an act to the files in view, or takes it from them; what each of them has now may differ. */
const props = defineProps<{ act: Act; kit: KitView; settings: Settings | undefined; disabled: boolean }>()
const emit = defineEmits<{ put: [settings: Settings] }>()

const first = computed(() => props.act.fields.find((field) => field.kind === 'choice'))
const lower = computed(() => props.act.title.toLowerCase())
const NONE = 'none'

function choose(event: Event): void {
  const select = event.target as HTMLSelectElement
  const change = first.value ? { [first.value.name]: select.value } : {}
  emit('put', select.value === NONE ? null : changed(props.act, props.kit, props.settings ?? undefined, change))
  select.value = ''
}
</script>

<template>
  <select class="field" :aria-label="`${act.title} of these files`" :title="act.words" :disabled="disabled" @change="choose">
    <option value="">{{ lower }} for these…</option>
    <option v-for="option in first?.options ?? [lower]" :key="option" :value="option">{{ option }}</option>
    <option :value="NONE">no {{ lower }}</option>
  </select>
</template>
