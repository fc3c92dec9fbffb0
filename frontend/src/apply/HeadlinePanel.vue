<script setup lang="ts">
import { computed } from 'vue'

import type { SetView } from '@/api/client'
import { useGroundsAndInks } from '@/api/plans'
import type { components } from '@/api/schema'
import ChoiceRow from '@/parts/ChoiceRow.vue'
import PickOne from '@/parts/PickOne.vue'
import { keyOf, named, pairOptions } from './pairs'
import type { Headline } from './pointing'

/** Room for a headline: in which ink, under which veil, and how well it reads there. */
const props = defineProps<{ set: SetView; headline: Headline | null | undefined; room: components['schemas']['HeadroomView'] | null | undefined }>()
const emit = defineEmits<{ put: [headline: Headline | null] }>()

const { data } = useGroundsAndInks(() => props.set)
const pairs = computed(() => data.value?.pairs ?? [])
const options = computed(() => {
  const now = props.headline
  return pairOptions(pairs.value, now && { ground: now.veil, ink: now.ink, title: `${now.ink} on ${now.veil}` })
})
const value = computed(() => props.headline && keyOf({ ground: props.headline.veil, ink: props.headline.ink }))

function choose(key: string): void {
  const { ground, ink } = named(key)
  emit('put', { ...props.headline!, ink, veil: ground })
}
/** A wide place at the top left, where most headlines stand. */
function begin(): void {
  const pair = pairs.value[0]
  if (pair) emit('put', { region: { left: 0.06, top: 0.08, width: 0.5, height: 0.3 }, ink: pair.ink, veil: pair.ground, size: 'small, 4.5:1', spread: 'fading out' })
}
</script>

<template>
  <template v-if="!headline">
    <p class="small">Say where a headline will stand and in which ink; a veil in a kit color makes it read there, as thin as it can be.</p>
    <v-btn :disabled="!pairs.length" @click="begin">Make room for a headline</v-btn>
    <p v-if="data && !pairs.length" class="small">The kit has no two colors that read on each other.</p>
  </template>
  <template v-else>
    <PickOne label="Ink, and the veil under it" :model-value="value!" :options="options" @update:model-value="choose" />
    <span class="small">Letters</span>
    <ChoiceRow
      label="Letters of the headline"
      :model-value="headline.size!"
      :options="[{ value: 'small, 4.5:1', label: 'small, 4.5' }, { value: 'large, 3:1', label: 'large, 3' }]"
      @update:model-value="emit('put', { ...headline!, size: $event })"
    />
    <span class="small">The veil lies over</span>
    <PickOne
      label="How far the veil reaches"
      :model-value="headline.spread!"
      :options="[
        { value: 'fading out' as const, title: 'the place, fading out' },
        { value: 'the place alone' as const, title: 'the place alone' },
        { value: 'the whole picture' as const, title: 'the whole picture' },
      ]"
      @update:model-value="emit('put', { ...headline!, spread: $event })"
    />
    <p v-if="room" class="small" role="status">
      <template v-if="room.percent === null">The ink does not read on the veil itself; choose another pair.</template>
      <template v-else-if="room.percent === 0">It reads as it is: {{ room.before }}:1 where it reads worst. No veil is needed.</template>
      <template v-else>
        With a veil of {{ room.percent }} % it reads with {{ room.after }}:1 where it reads worst; without it {{ room.before }}:1.
      </template>
    </p>
    <p v-else class="muted small" role="status">Measuring…</p>
    <p class="muted small">Drag the frame to where the headline stands, and its corner to its size.</p>
    <v-btn @click="emit('put', null)">No headline here</v-btn>
  </template>
</template>
