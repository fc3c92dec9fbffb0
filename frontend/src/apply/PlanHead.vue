<script setup lang="ts">
import { computed, ref } from 'vue'

import type { KitView, Only, Recipe, SetView } from '@/api/client'
import { usePlans, usePlanSaving } from '@/api/plans'
import { useSetChanges } from '@/api/sets'
import { complain, say } from '@/frame/notices'
import { baseTokens, colorKeys, type Option, plain } from '@/parts/picking'
import PickOne from '@/parts/PickOne.vue'
import DeckLinks from './DeckLinks.vue'
import DeckTheme from './DeckTheme.vue'
import GroundAndInk from './GroundAndInk.vue'
import PlanDoubts from './PlanDoubts.vue'
import PicturesInside from './PicturesInside.vue'
import PlanFigures from './PlanFigures.vue'
import SetReading from './SetReading.vue'

/** How the plan is made in the first place, how good it is in figures, and what of it deserves a look. */
const props = defineProps<{ kit: KitView; set: SetView; ground: string }>()
defineEmits<{ compare: []; see: [file: string]; point: [paint: string | undefined]; only: [which: Only] }>()
/** Whether the settings are open beside it. */
const more = defineModel<boolean>('more', { required: true })
const changes = useSetChanges(() => props.set.id)

const recipe = computed(() => props.set.recipe)
const pictured = computed(() => props.set.reading || props.set.paints.some((one) => one.kinds.includes('picture')))

/** While nobody has chosen anything for these files, a saved plan that knows most of their paints is offered. */
const { data: plans } = usePlans(() => props.set)
const { use } = usePlanSaving()
const offered = computed(() => {
  const best = plans.value?.[0]
  return best && !props.set.history.undo && !props.set.original && best.known * 2 > best.of ? best : undefined
})

function follow(plan: { id: string; name: string }): void {
  use.mutateAsync({ id: plan.id, sets: [props.set.id] }).then(() => say(`${props.set.name} now follows “${plan.name}”`), complain)
}

function put(change: Partial<Recipe>, forget = false): void {
  changes.recipe.mutateAsync({ ...recipe.value, ...change, forget }).catch(complain)
}

/** Another mode, while it is asked what becomes of choices by hand. */
const otherMode = ref<Recipe['mode']>()
const hand = computed(() => props.set.paints.filter((paint) => paint.by === 'you' && !paint.part).length)
function chooseMode(wanted: Recipe['mode']): void {
  if (hand.value) otherMode.value = wanted
  else put({ mode: wanted })
}
function answer(forget: boolean): void {
  if (otherMode.value) put({ mode: otherMode.value }, forget)
  otherMode.value = undefined
}

const MODES: Option<Recipe['mode']>[] = [
  { value: 'kit', title: 'kit colors' },
  ...plain(['single color', 'greyscale', 'two-tone'] as const),
]
const POLICIES: Option<Recipe['policy']>[] = [
  { value: 'faithful', title: 'faithful', words: 'each color keeps its own hue as far as the kit has it' },
  { value: 'branded', title: 'branded', words: 'the kit\'s main colors take over the drawing\'s' },
]
</script>

<template>
  <section class="plan" aria-label="Plan">
    <DeckTheme v-if="set.themed" :kit="kit" :set="set" @only="$emit('only', $event)" />
    <GroundAndInk v-else-if="set.reading && set.channel !== 'slides'" :set="set" @only="$emit('only', $event)" />
    <SetReading v-else-if="set.reading" :set="set" @only="$emit('only', $event)" />
    <div class="row">
      <PickOne label="Mode" :model-value="otherMode ?? recipe.mode" :options="MODES" @update:model-value="chooseMode" />
      <PickOne
        v-if="recipe.mode === 'kit'"
        label="Policy"
        :model-value="recipe.policy"
        :options="POLICIES"
        @update:model-value="(policy) => put({ policy })"
      />
      <PickOne
        v-else-if="recipe.mode !== 'two-tone'"
        label="Color of the mode"
        :model-value="recipe.color ?? null"
        :options="[{ value: null, title: 'the kit\'s main color' }, ...colorKeys(kit.colors)]"
        @update:model-value="(color) => put({ color })"
      />
      <template v-else>
        <PickOne
          label="Dark color"
          :model-value="recipe.dark ?? null"
          :options="[{ value: null, title: 'dark' }, ...baseTokens(kit.colors)]"
          @update:model-value="(dark) => put({ dark })"
        />
        <PickOne
          label="Light color"
          :model-value="recipe.light ?? null"
          :options="[{ value: null, title: 'light' }, ...baseTokens(kit.colors)]"
          @update:model-value="(light) => put({ light })"
        />
      </template>
    </div>
    <div v-if="otherMode" class="asked small" role="alert">
      <p>{{ hand }} {{ hand === 1 ? 'target was' : 'targets were' }} chosen by hand.</p>
      <v-btn class="strong" @click="answer(false)">Keep {{ hand === 1 ? 'it' : 'them' }}</v-btn>
      <v-btn @click="answer(true)">Plan {{ hand === 1 ? 'it' : 'them' }} too</v-btn>
      <v-btn @click="otherMode = undefined">Stay in {{ recipe.mode === 'kit' ? 'kit colors' : recipe.mode }}</v-btn>
    </div>
    <PlanFigures v-if="!set.reading" :figures="set.figures" told />
    <DeckLinks v-if="set.themed" :set="set" @point="$emit('point', $event)" />
    <PicturesInside v-if="pictured" :set="set" @see="$emit('see', $event)" />
    <PlanDoubts :set="set" :ground="ground" @see="$emit('see', $event)" @point="$emit('point', $event)" />
    <div class="row">
      <v-btn class="strong" :disabled="!set.paints.length" @click="$emit('compare')">Other plans…</v-btn>
      <v-btn :aria-expanded="more" @click="more = !more">Settings</v-btn>
    </div>
    <p v-if="offered" class="small">
      The saved plan “{{ offered.name }}” knows {{ offered.known }} of these {{ offered.of }} paints.
      <button type="button" class="link" @click="follow(offered)">Use it here</button>
    </p>
  </section>
</template>

<style scoped>
.asked {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  padding: 6px 0;
}
.asked p {
  flex: 1 0 100%;
}
.plan {
  display: grid;
  flex: 0 10 auto;
  grid-template-columns: minmax(0, 1fr);
  gap: 8px;
  min-height: 140px;
  margin: 0 -16px;
  padding: 0 16px;
  overflow: hidden auto;
}
.row {
  display: flex;
  gap: 6px;
}
.row .field {
  flex: 1 1 0;
}
</style>
