<script setup lang="ts">
import { computed } from 'vue'

import type { KitView } from '@/api/client'
import type { components } from '@/api/schema'
import ChoiceRow from '@/parts/ChoiceRow.vue'
import { baseTokens } from '@/parts/picking'
import PickOne from '@/parts/PickOne.vue'
import SlideField from '@/parts/SlideField.vue'
import SwatchBox from '@/parts/SwatchBox.vue'
import TickBox from '@/parts/TickBox.vue'
import PointedRows from './PointedRows.vue'
import type { Place, Press, Thing } from './pointing'

/** The things of a picture that get a color, and what belongs to the one at hand. */
const props = defineProps<{
  kit: KitView
  things: readonly components['schemas']['ThingView'][]
  thing: Thing | undefined
  number: number | undefined
}>()
const covered = defineModel<boolean>('covered', { required: true })
const press = defineModel<Press>('press', { required: true })
const width = defineModel<number>('width', { required: true })
const emit = defineEmits<{ take: [at: number | undefined]; point: [place: Place]; change: [to: Partial<Thing>]; remove: [] }>()

const colors = computed(() => {
  const bases = baseTokens(props.kit.colors)
  const now = props.thing?.color
  // A step of a ramp that was chosen elsewhere.
  return !now || bases.some((one) => one.value === now) ? bases : [{ value: now, title: props.things[props.number ?? -1]?.name ?? now }, ...bases]
})
const CONTROLS = [
  { field: 'hue', label: 'Hue', unit: '°', min: 3, max: 70, words: 'How far other hues may be from it' },
  { field: 'faint', label: 'Faintness', unit: '%', min: 0, max: 95, words: 'How much less of its color it may have' },
  { field: 'light', label: 'Light and shade', unit: '%', min: 3, max: 100, words: 'How much lighter or darker it may be' },
] as const
</script>

<template>
  <PointedRows v-slot="{ at }" label="Things with a color" :count="things.length" :number="number" @take="emit('take', $event)">
    <SwatchBox :css="things[at]!.hex" :size="16" /> <span>Thing {{ at + 1 }}</span> <span class="muted">{{ things[at]!.name }}</span>
  </PointedRows>
  <template v-if="!thing">
    <p class="small">Press a thing in the picture, such as a coat or a hull: what belongs to it is found, and you choose its color.</p>
    <v-btn @click="emit('point', { x: 0.5, y: 0.5 })">Pin in the middle</v-btn>
    <p class="muted small">A pin can be moved with the arrow keys.</p>
  </template>
  <template v-else>
    <PickOne label="Color of the thing" asked="choose its color" :model-value="thing.color || undefined" :options="colors" @update:model-value="emit('change', { color: $event })" />
    <TickBox v-model="covered">Show what belongs to it</TickBox>
    <div v-for="one in CONTROLS" :key="one.field" v-hint="one.words" class="control">
      <span class="small">{{ one.label }}</span>
      <SlideField
        :model-value="thing[one.field]!"
        :label="one.label"
        :min="one.min"
        :max="one.max"
        :unit="one.unit"
        live
        @update:model-value="emit('change', { [one.field]: Math.round($event) })"
      />
    </div>
    <TickBox :model-value="thing.together!" @update:model-value="emit('change', { together: $event })">Only what hangs together</TickBox>
    <span class="small">A press in the picture</span>
    <ChoiceRow
      v-model="press"
      label="A press in the picture"
      :options="[{ value: 'place', label: 'adds a place' }, { value: 'adds', label: 'brushes in' }, { value: 'takes', label: 'brushes out' }]"
    />
    <div v-if="press !== 'place'" class="control">
      <span class="small">Brush</span>
      <SlideField v-model="width" label="Width of the brush" :min="1" :max="25" unit="%" />
    </div>
    <div class="done">
      <v-btn v-if="thing.strokes?.length" @click="emit('change', { strokes: thing.strokes.slice(0, -1) })">Last stroke away</v-btn>
      <v-btn @click="emit('remove')">{{ number === undefined ? 'Let it be' : 'As it came' }}</v-btn>
      <v-btn v-if="number !== undefined" @click="emit('take', undefined)">Another thing</v-btn>
    </div>
  </template>
</template>

<style scoped>
.control {
  display: grid;
  gap: 0;
}
.done {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
</style>
