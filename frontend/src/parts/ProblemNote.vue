<script setup lang="ts">
import { computed } from 'vue'

import { ProblemError } from '@/api/client'

const props = defineProps<{ error: unknown }>()
defineEmits<{ again: [] }>()
const id = computed(() => (props.error instanceof ProblemError ? props.error.id : ''))
const text = computed(() => (props.error instanceof Error ? props.error.message : 'It did not work.'))
</script>

<template>
  <div class="problem" role="alert">
    <p><strong>This did not work.</strong> {{ text }}</p>
    <p v-if="id" class="muted mono">problem {{ id }}</p>
    <v-btn @click="$emit('again')">Try again</v-btn>
  </div>
</template>

<style scoped>
.problem {
  display: grid;
  gap: 8px;
  justify-items: start;
  max-width: 520px;
  margin: 48px auto;
  padding: 20px 24px;
  border: 2px solid var(--ink);
  background: var(--panel);
}
</style>
