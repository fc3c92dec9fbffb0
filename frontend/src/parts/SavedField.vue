<script setup lang="ts">
import { ref, watch } from 'vue'

/** A field whose text is saved when one is done with it; what is being typed is not taken away by news from elsewhere. */
const props = defineProps<{ value: string; label: string; longest: number; required?: boolean }>()
const emit = defineEmits<{ save: [text: string] }>()

const text = ref(props.value)
watch(
  () => props.value,
  (value, before) => {
    if (text.value === before) text.value = value
  },
)

function save(): void {
  if (props.required && !text.value.trim()) text.value = props.value
  else if (text.value !== props.value) emit('save', text.value)
}
</script>

<template>
  <v-text-field v-model="text" class="field" :aria-label="label" :maxlength="longest" spellcheck="false" @change="save" />
</template>
