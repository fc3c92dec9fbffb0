<script setup lang="ts">
import { computed } from 'vue'

import type { SetView } from '@/api/client'
import PickOne from '@/parts/PickOne.vue'
import TickBox from '@/parts/TickBox.vue'
import PartElsewhere from './PartElsewhere.vue'
import PointedRows from './PointedRows.vue'
import type { Part } from './pointing'

/** The parts of a picture that go their own way, and what becomes of the one at hand. */
const props = defineProps<{
  set: SetView
  asset: { id: string }
  parts: readonly Part[]
  /** Of each part why the kit's logo does not stand there, where it is to. */
  withoutLogo: readonly string[]
  number: number | undefined
  most: number
}>()
const covered = defineModel<boolean>('covered', { required: true })
const emit = defineEmits<{ take: [at: number | undefined]; put: [parts: Part[]]; begin: [] }>()

const WAYS: { value: NonNullable<Part['way']>; title: string }[] = [
  { value: 'what stands in it keeps its colors', title: 'what stands in it keeps its colors' },
  { value: 'it stays as it came', title: 'all of it stays as it came' },
  { value: 'it is a photograph', title: 'it is a photograph' },
  { value: 'it is drawn', title: 'it is drawn, no photograph' },
  { value: "the kit's logo is in its place", title: 'the kit’s logo takes its place' },
]
const WORDS: Record<NonNullable<Part['way']>, string> = {
  'what stands in it keeps its colors': 'What runs through the frame, such as the ground under a sign, goes along with the rest.',
  'it stays as it came': 'Nothing in the frame changes.',
  'it is a photograph': 'Nothing in the frame goes by the plan; tones of the photograph count in it.',
  'it is drawn': 'It goes by the plan as far as it has paints; tones of the photograph do not count in it.',
  "the kit's logo is in its place":
    'What stands in the frame is taken out, and the kit’s logo for that ground stands there; where the ground is not even, its backing covers the frame.',
}
const part = computed(() => (props.number === undefined ? undefined : props.parts[props.number]))
const stays = computed(() => (props.number === undefined ? '' : props.withoutLogo[props.number]))

function choose(way: NonNullable<Part['way']>): void {
  emit('put', props.parts.map((one, at) => (at === props.number ? { ...one, way } : one)))
}
</script>

<template>
  <p v-if="!parts.length" class="small">Draw a frame round a part that goes its own way: a sign that keeps its colors, an old logo, a panel that is no photograph, a sky that is part of one.</p>
  <PointedRows v-slot="{ at }" label="Parts with a way of their own" :count="parts.length" :number="number" @take="emit('take', $event)">
    <span>Part {{ at + 1 }}</span> <span class="muted">{{ WAYS.find((way) => way.value === parts[at]!.way)?.title }}</span>
  </PointedRows>
  <template v-if="part">
    <PickOne label="What becomes of this part" :model-value="part.way!" :options="WAYS" @update:model-value="choose" />
    <p class="small">{{ WORDS[part.way!] }}</p>
    <p v-if="stays" class="small" role="status">
      The old logo stays. {{ stays }}
      <router-link :to="{ name: 'compose', params: { kitId: set.kit_id, view: 'logo' } }">See the kit’s logo</router-link>
    </p>
    <p class="muted small">Drag the frame round it, and its corner to its size.</p>
    <PartElsewhere v-if="number !== undefined" :key="number" :set="set" :asset="asset" :part="part" :number="number" />
  </template>
  <div class="done">
    <v-btn :disabled="parts.length >= most" @click="emit('begin')">Frame {{ parts.length ? 'another' : 'a' }} part</v-btn>
    <v-btn v-if="part" @click="emit('put', parts.filter((_, at) => at !== number))">As the rest</v-btn>
  </div>
  <TickBox v-model="covered">Show what is taken for a photograph</TickBox>
</template>

<style scoped>
.done {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
</style>
