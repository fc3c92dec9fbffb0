<script setup lang="ts">
import { computed } from 'vue'

import type { KitView } from '@/api/client'
import { useProving, useStates } from '@/api/proving'
import { complain } from '@/frame/notices'
import { useMe } from '@/frame/session'
import NumberField from '@/parts/NumberField.vue'
import LiveControls from './LiveControls.vue'

const props = defineProps<{ kit: KitView }>()
const { data: view } = useStates(() => props.kit)
const { states } = useProving(() => props.kit.id)
const { mayChange } = useMe()

const DISTANCES = [
  { field: 'hover', label: 'hover', most: 4 },
  { field: 'pressed', label: 'pressed', most: 5 },
  { field: 'disabled', label: 'disabled', most: 8 },
] as const
function put(field: (typeof DISTANCES)[number]['field'], value: number): void {
  const { hover, pressed, disabled } = view.value!
  states.mutateAsync({ hover, pressed, disabled, [field]: value }).catch(complain)
}
const weak = computed(() =>
  (view.value?.controls ?? []).flatMap((control) =>
    control.looks
      .filter((look) => look.state !== 'disabled' && Number(look.ratio) < 4.5)
      .map((look) => `${control.name} ${look.state} reaches ${look.ratio} only.`),
  ),
)
</script>

<template>
  <div v-if="view" class="states scrolls">
    <header>
      <span>Steps of the ramp between the states:</span>
      <template v-for="entry in DISTANCES" :key="entry.field">
        <span>{{ entry.label }}</span>
        <NumberField
          :label="entry.label"
          :model-value="view[entry.field]"
          :min="1"
          :max="entry.most"
          :disabled="!mayChange"
          @update:model-value="(value) => put(entry.field, value)"
        />
      </template>
    </header>
    <p v-if="!view.controls.length" class="muted">
      A control needs a color in the role of action, or of neutral; give one in Compose.
    </p>
    <section v-for="control in view.controls" :key="control.kind">
      <h2>
        {{ control.name }}, the {{ control.kind }} control
        <span class="muted">moves to {{ control.darker ? 'darker' : 'lighter' }} steps</span>
      </h2>
      <ul :style="{ background: view.ground, color: view.ink }" class="layout">
        <li v-for="look in control.looks" :key="look.state">
          <span
            class="sample"
            :style="{ background: look.fill, color: look.ink, outlineColor: look.ring ?? 'transparent' }"
            >{{ kit.samples.action }}</span
          >
          <span class="small">
            <strong>{{ look.state }}</strong> {{ look.name }}<br />
            text <span class="mono">{{ look.ratio }}</span>
            <template v-if="look.ring_ratio">, ring <span class="mono">{{ look.ring_ratio }}</span></template>
          </span>
        </li>
      </ul>
    </section>
    <p v-for="text in weak" :key="text">{{ text }}</p>
    <section v-if="view.controls.length">
      <h2>Live <span class="muted">hover, press, and step through with the tabulator key</span></h2>
      <LiveControls :view="view" :samples="kit.samples" />
    </section>
  </div>
</template>

<style scoped>
.states {
  display: grid;
  gap: 18px;
  align-content: start;
  flex: 1;
  padding: 14px 16px;
}
header {
  display: flex;
  gap: 8px 14px;
  align-items: center;
}
section {
  display: grid;
  gap: 8px;
}
h2 .muted {
  margin-left: 8px;
  font-weight: 400;
}
ul {
  display: grid;
  grid-template-columns: repeat(5, 1fr);
  gap: 14px;
  padding: 18px 20px;
}
li {
  display: grid;
  gap: 8px;
}
.sample {
  justify-self: start;
  padding: 9px 16px;
  font-weight: 600;
  outline: 2px solid;
  outline-offset: 3px;
}
</style>
