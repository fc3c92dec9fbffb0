<script setup lang="ts">
import { ref, watch } from 'vue'

import NumberField from './NumberField.vue'
import { useShown } from './picking'

/**
 * A slider with its number, which can be typed too. `shown` numbers are `factor` times what is meant; `live` ones tell
 * of every place on the way, others where one lets go.
 */
const props = withDefaults(
  defineProps<{
    modelValue: number
    label: string
    min: number
    max: number
    step?: number
    factor?: number
    precision?: number
    unit?: string
    live?: boolean
    bare?: boolean
    disabled?: boolean
  }>(),
  { step: 1, factor: 1, precision: 0 },
)
const emit = defineEmits<{ 'update:modelValue': [value: number]; settled: [value: number] }>()

const meant = useShown(() => props.modelValue)
const at = ref(meant.value * props.factor)
watch(meant, (value) => (at.value = value * props.factor))

/** Whether a place on the way is another one, and not what is meant drawn to the nearest step. */
const moved = (value: number) => Math.abs(value - meant.value * props.factor) > props.step / 2 + 1e-6

/** One has let go: `settled` says so also where the places on the way were told. */
function settle(value: number): void {
  put(value)
  emit('settled', value / props.factor)
}

function put(value: number): void {
  const wanted = value / props.factor
  at.value = value
  if (wanted !== meant.value) {
    meant.value = wanted
    emit('update:modelValue', wanted)
  }
}
</script>

<template>
  <div class="slide" :class="{ bare }">
    <v-slider
      v-model="at"
      :aria-label="label"
      :min="min"
      :max="max"
      :step="step"
      :disabled="disabled"
      @update:model-value="live && moved($event) && put($event)"
      @end="settle"
      @keyup="settle(at)"
    />
    <NumberField
      v-if="!bare"
      :model-value="at"
      :label="`${label}, number`"
      :min="min"
      :max="max"
      :step="step"
      :precision="precision"
      :unit="unit"
      :disabled="disabled"
      @update:model-value="settle"
    />
  </div>
</template>

<style scoped>
.slide {
  display: grid;
  grid-template-columns: minmax(60px, 1fr) auto;
  gap: 12px;
  align-items: center;
  min-width: 0;
}
.slide.bare {
  grid-template-columns: minmax(60px, 1fr);
}
</style>
