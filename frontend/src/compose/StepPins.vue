<script setup lang="ts">
import { computed, ref } from 'vue'

import type { ColorView } from '@/api/client'
import PickOne from '@/parts/PickOne.vue'

/** Steps of a ramp that are held at a given color. */
const props = defineProps<{ color: ColorView }>()
const emit = defineEmits<{ pin: [pin: { step: number; code: string | null }] }>()

const step = ref(100)
const code = ref('')
const pinned = computed(() => props.color.steps.filter((entry) => entry.pinned))
const free = computed(() => props.color.steps.filter((entry) => !entry.base))

function pin(): void {
  if (!code.value.trim()) return
  emit('pin', { step: step.value, code: code.value })
  code.value = ''
}
</script>

<template>
  <section aria-label="Pinned steps">
    <h2>Pin a step</h2>
    <form @submit.prevent="pin">
      <PickOne v-model="step" class="step" label="Step to pin" :options="free.map((entry) => ({ value: entry.step, title: `${entry.step}`, hex: entry.hex }))" />
      <v-text-field v-model="code" class="field code" aria-label="Color for the step" placeholder="any code" spellcheck="false" maxlength="200" />
      <v-btn type="submit" :disabled="!code.trim()">Pin</v-btn>
    </form>
    <p v-for="entry in pinned" :key="entry.step" class="small">
      <i :style="{ background: entry.hex }" /> {{ entry.step }} stays <span class="mono">{{ entry.hex }}</span>
      <button type="button" class="link" @click="emit('pin', { step: entry.step, code: null })">let go of {{ entry.step }}</button>
    </p>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 6px;
}
form {
  display: flex;
  gap: 4px;
}
.code {
  flex: 1;
}
.step {
  flex: 0 0 86px;
}
form .v-btn {
  height: 30px;
}
.small {
  display: flex;
  gap: 6px;
  align-items: center;
}
i {
  width: 14px;
  height: 14px;
  border: 1px solid var(--rule);
}
</style>
