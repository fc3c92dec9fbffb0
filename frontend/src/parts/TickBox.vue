<script setup lang="ts">
import { useShown } from './picking'

/** A box to tick, with its words beside it. */
const props = defineProps<{ modelValue: boolean }>()
const emit = defineEmits<{ 'update:modelValue': [ticked: boolean] }>()

const shown = useShown(() => props.modelValue)

function put(ticked: boolean): void {
  shown.value = ticked
  emit('update:modelValue', ticked)
}
</script>

<template>
  <v-checkbox-btn class="tick" :model-value="shown" inline @update:model-value="put($event as boolean)">
    <template v-if="$slots.default" #label><slot /></template>
  </v-checkbox-btn>
</template>
