<script setup lang="ts">
import { computed, ref } from 'vue'

import type { KitView, PaintView } from '@/api/client'
import type { Option } from '@/parts/picking'
import PickOne from '@/parts/PickOne.vue'

const props = defineProps<{ kit: KitView; paint: PaintView }>()
const emit = defineEmits<{
  aim: [to: { target?: string; color?: string }]
  split: [part: string]
  join: []
  keepSelector: [selector: string]
}>()

/** What some of a paint's places can be told from the others by: what they do, or where they stand. */
const parts = computed<Option<string>[]>(() => {
  const kinds = props.paint.kinds.length > 1 ? props.paint.kinds : []
  const { selectors } = props.paint
  const group = 'Give a target of their own to'
  return [
    ...kinds.map((kind) => ({ value: `split|${kind}`, title: `its places as ${kind}`, group })),
    ...selectors.map((selector) => ({ value: `split|${selector}`, title: `its places in ${selector}`, group })),
    ...selectors.map((selector) => ({ value: `keep|${selector}`, title: selector, group: 'Keep every color of' })),
  ]
})

function choosePart(wanted: string | null): void {
  const [what, part] = (wanted ?? '').split('|')
  if (what === 'split' && part) emit('split', part)
  if (what === 'keep' && part) emit('keepSelector', part)
}

const color = computed(() => props.kit.colors.find((entry) => entry.key === props.paint.target_color))
const code = ref('')

function useCode(): void {
  const text = code.value.trim()
  if (text) emit('aim', { target: text.startsWith('#') ? text : `#${text}` })
  code.value = ''
}
</script>

<template>
  <div class="steps">
    <p class="muted why">
      {{ paint.reason.charAt(0).toUpperCase() + paint.reason.slice(1) }}.
      <template v-if="paint.area">Covers {{ paint.area }} where it stands.</template>
      Press a pennant of the kit above, or its number key.
    </p>
    <div v-if="color" class="ramp" role="group" :aria-label="`Steps of ${color.name}`">
      <button
        v-for="entry in color.steps"
        :key="entry.step"
        v-hint="`${color.name} ${entry.base ? 'base' : entry.step}`"
        type="button"
        :class="{ on: entry.step === paint.target_step, base: entry.base }"
        :style="{ background: entry.hex, color: entry.ink }"
        :aria-pressed="entry.step === paint.target_step"
        :aria-label="`${color.name} ${entry.base ? 'base' : entry.step}, ${entry.hex}`"
        @click="emit('aim', { target: `${color.key}.${entry.base ? 'base' : entry.step}` })"
      />
    </div>
    <form @submit.prevent="useCode">
      <v-btn :disabled="paint.target === 'keep'" @click="emit('aim', { target: 'keep' })">Keep as it is</v-btn>
      <v-text-field v-model="code" class="field mono" aria-label="Another color code" placeholder="other #code" maxlength="9" />
      <v-btn type="submit" :disabled="!code.trim()">Use</v-btn>
    </form>
    <v-btn v-if="paint.part || paint.exception" @click="emit('join')">
      {{ paint.exception ? 'Follow the set again' : 'Join with its paint again' }}
    </v-btn>
    <PickOne
      v-else-if="parts.length"
      label="Take some places apart"
      asked="take some places apart…"
      :model-value="null"
      :options="parts"
      fleeting
      @update:model-value="choosePart"
    />
  </div>
</template>

<style scoped>
.steps {
  display: grid;
  gap: 8px;
  padding: 0 14px 12px 12px;
}
.why {
  font-size: 12px;
}
.ramp {
  display: grid;
  grid-template-columns: repeat(11, 1fr);
  gap: 2px;
}
.ramp button {
  height: 26px;
  padding: 0;
  border: 0;
  cursor: pointer;
}
.ramp .base {
  box-shadow: inset 0 -4px 0 -1px currentColor;
}
.ramp .on {
  outline: 2px solid var(--ink);
  outline-offset: 1px;
}
.ramp button:focus-visible {
  outline: 3px double var(--ink);
  outline-offset: 1px;
}
form {
  display: flex;
  gap: 6px;
}
</style>
