<script setup lang="ts">
import { watch } from 'vue'

import { refusals } from '@/frame/notices'
import { useShown } from './picking'

/** A number within bounds; it is taken when one is done with it. `unit` stands behind it. */
const props = withDefaults(
  defineProps<{
    modelValue: number | null
    label: string
    min: number
    max: number
    step?: number
    precision?: number
    unit?: string
    hint?: string
    disabled?: boolean
  }>(),
  { step: 1, precision: 0 },
)
const emit = defineEmits<{ 'update:modelValue': [value: number] }>()

const shown = useShown(() => props.modelValue)
/** What was told last: a field that is left after a change has nothing more to tell. */
let told = props.modelValue
watch([() => props.modelValue, refusals], () => (told = props.modelValue))

function put(): void {
  if (shown.value === null) shown.value = props.modelValue
  else if (shown.value !== told) {
    told = shown.value
    emit('update:modelValue', shown.value)
  }
}
</script>

<template>
  <v-number-input
    v-model="shown"
    v-hint="hint"
    class="field mono number"
    control-variant="hidden"
    :aria-label="label"
    :min="min"
    :max="max"
    :step="step"
    :precision="precision"
    :suffix="unit"
    :disabled="disabled"
    @change="put"
    @blur="put"
  />
</template>

<style scoped>
.number {
  flex: none;
  width: 60px;
}
</style>
