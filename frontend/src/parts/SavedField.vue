<script setup lang="ts">
import { computed, ref, watch } from 'vue'

import { refusals } from '@/frame/notices'
import { tooLong } from './lengths'

/**
 * A field whose text is saved when one is done with it; what is being typed is not taken away by news from elsewhere.
 * `save` tells the text, and what stood there when one began. A text that is too long is said to be, and stays.
 */
const props = defineProps<{ value: string; label: string; longest: number; required?: boolean }>()
const emit = defineEmits<{ save: [text: string, was: string] }>()

const text = ref(props.value)
const began = ref(props.value)
watch(
  () => props.value,
  (value, before) => {
    if (text.value === before) text.value = value
  },
)
watch(refusals, () => (text.value = props.value))

const wrong = computed(() => tooLong(text.value, props.longest))

function save(): void {
  if (wrong.value) return
  if (props.required && !text.value.trim()) text.value = props.value
  else if (text.value !== props.value) emit('save', text.value, began.value)
}
</script>

<template>
  <v-text-field
    v-model="text"
    class="field"
    :aria-label="label"
    :error-messages="wrong"
    spellcheck="false"
    @focus="began = value"
    @change="save"
  />
</template>
