<script setup lang="ts">
import { computed } from 'vue'

import type { components } from '@/api/schema'

/** A real button, field and card in the kit's colors; the states are the browser's own. */
const props = defineProps<{ view: components['schemas']['StatesView']; samples: components['schemas']['Samples'] }>()

const action = computed(() => props.view.controls[0]!)
const quiet = computed(() => props.view.controls.at(-1)!)

/** The states of a control as custom properties that the styles below pick from. */
function look(control: typeof action.value): Record<string, string> {
  const found: Record<string, string> = {}
  for (const one of control.looks) {
    found[`--${one.state}`] = one.fill
    found[`--on-${one.state}`] = one.ink
    if (one.ring) found['--ring'] = one.ring
  }
  return found
}
</script>

<template>
  <div class="live layout" :style="{ background: view.ground, color: view.ink }">
    <div class="column" :style="look(action)">
      <button type="button">{{ samples.action }}</button>
      <button type="button" disabled>Not now</button>
    </div>
    <label class="column" :style="look(quiet)">
      Name
      <input type="text" value="Ines Vale" />
      <input type="text" value="Not needed today" disabled aria-label="A field that is disabled" />
    </label>
    <a class="card" href="#" :style="look(quiet)" @click.prevent>
      <strong>{{ samples.headline }}</strong>
      <span>{{ samples.sentence }}</span>
    </a>
  </div>
</template>

<style scoped>
.live {
  display: flex;
  gap: 28px;
  align-items: start;
  padding: 22px 24px;
}
.column {
  display: grid;
  gap: 10px;
}
button,
.card {
  padding: 9px 16px;
  border: 0;
  background: var(--rest);
  color: var(--on-rest);
  font-weight: 600;
  text-decoration: none;
  cursor: pointer;
}
.card {
  display: grid;
  gap: 4px;
  width: 280px;
  padding: 16px 18px;
}
.card span {
  font-weight: 400;
}
button:hover,
.card:hover {
  background: var(--hover);
  color: var(--on-hover);
}
button:active,
.card:active {
  background: var(--pressed);
  color: var(--on-pressed);
}
button:disabled,
input:disabled {
  background: var(--disabled);
  color: var(--on-disabled);
  cursor: default;
}
input {
  height: 34px;
  padding: 0 10px;
  border: 2px solid var(--rest);
  background: transparent;
  color: inherit;
  font: inherit;
}
input:hover:not(:disabled) {
  border-color: var(--hover);
}
button:focus-visible,
.card:focus-visible,
input:focus-visible {
  outline: 2px solid var(--ring);
  outline-offset: 3px;
}
</style>
