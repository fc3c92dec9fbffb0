<script setup lang="ts">
import { computed } from 'vue'

import type { KitView, SubjectView } from '@/api/client'
import { useProving } from '@/api/proving'
import { complain } from '@/frame/notices'

/** Which ramp steps take part in pairs, beside the bases. */
const props = defineProps<{ kit: KitView; subjects: SubjectView[] }>()
const { steps } = useProving(() => props.kit.id)
const on = computed(() => props.subjects.filter((subject) => subject.step !== null).map((subject) => subject.token))

function flip(token: string): void {
  const next = on.value.includes(token) ? on.value.filter((one) => one !== token) : [...on.value, token]
  steps.mutateAsync(next).catch(complain)
}
</script>

<template>
  <v-menu attach :close-on-content-click="false">
    <template #activator="{ props: open }">
      <v-btn v-bind="open">Steps{{ on.length ? ` (${on.length})` : '…' }}</v-btn>
    </template>
    <div class="sheet steps">
      <p class="small muted">Steps that take part in pairs beside the bases</p>
      <div v-for="color in kit.colors" :key="color.key" class="row">
        <span v-hint="color.name" class="name">{{ color.name }}</span>
        <button
          v-for="step in color.steps"
          :key="step.step"
          v-hint="step.base ? 'the base, always in' : `${color.name} ${step.step}`"
          type="button"
          class="step"
          :class="{ on: on.includes(`${color.key}.${step.step}`) }"
          :disabled="step.base"
          :aria-pressed="step.base || on.includes(`${color.key}.${step.step}`)"
          :aria-label="`${color.name} ${step.step}`"
          :style="{ background: step.hex, color: step.ink }"
          @click="flip(`${color.key}.${step.step}`)"
        >
          {{ step.base ? 'base' : step.step }}
        </button>
      </div>
    </div>
  </v-menu>
</template>

<style scoped>
.steps {
  display: grid;
  gap: 4px;
  max-height: 60vh;
  overflow: auto;
  padding: 12px 14px;
}
.row {
  display: flex;
  gap: 3px;
  align-items: center;
}
.name {
  width: 110px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.step {
  width: 38px;
  height: 26px;
  padding: 0;
  border: 0;
  font-size: 11px;
  cursor: pointer;
}
.step.on {
  outline: 2px solid var(--ink);
  outline-offset: 1px;
}
.step:disabled {
  cursor: default;
}
</style>
