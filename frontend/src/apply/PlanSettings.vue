<script setup lang="ts">
import { computed, ref } from 'vue'

import type { KitView, Recipe, SetView } from '@/api/client'
import { usePlans, usePlanSaving, useSetChanges } from '@/api/queries'
import { complain, say } from '@/frame/notices'
import { baseTokens, colorKeys, type Option, plain } from '@/parts/picking'
import PickOne from '@/parts/PickOne.vue'
import SavedField from '@/parts/SavedField.vue'
import SlideField from '@/parts/SlideField.vue'
import TickBox from '@/parts/TickBox.vue'
import ActFields from './ActFields.vue'
import { useActs } from './acts'
import GuestColors from './GuestColors.vue'
import PlanDoubts from './PlanDoubts.vue'
import PlanFigures from './PlanFigures.vue'
import PlanRules from './PlanRules.vue'
import SavedPlans from './SavedPlans.vue'

/** How the plan is made: mode, policy, allowed colors, what is left alone; and how good it is, in figures. */
const props = defineProps<{ kit: KitView; set: SetView; ground: string }>()
defineEmits<{ compare: []; see: [file: string]; point: [paint: string | undefined] }>()
const changes = useSetChanges(() => props.set.id)

const recipe = computed(() => props.set.recipe)
const natural = computed(() => props.set.paints.filter((paint) => paint.natural && !paint.part))
const more = ref(false)

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

const acts = useActs()

const CHANNELS = plain(['icons', 'illustrations', 'email', 'slides', 'motion', 'images'] as const)
const MODES: Option<Recipe['mode']>[] = [
  { value: 'kit', title: 'kit colors' },
  ...plain(['single color', 'greyscale', 'two-tone'] as const),
]
const POLICIES: Option<Recipe['policy']>[] = [
  { value: 'faithful', title: 'faithful', words: 'each color keeps its own hue as far as the kit has it' },
  { value: 'branded', title: 'branded', words: 'the kit\'s main colors take over the drawing\'s' },
]
const slides = computed(() => [
  ...(recipe.value.mode === 'greyscale' ? [{ field: 'tint' as const, label: 'Tint', min: 0, max: 100 }] : []),
  { field: 'strength' as const, label: 'Strength', min: 0, max: 100 },
  { field: 'low' as const, label: 'Darkest', min: 0, max: 60 },
  { field: 'high' as const, label: 'Lightest', min: 70, max: 100 },
])
</script>

<template>
  <section class="plan" aria-label="Plan">
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
    <PlanFigures :figures="set.figures" told />
    <PlanDoubts :set="set" :ground="ground" @see="$emit('see', $event)" @point="$emit('point', $event)" />
    <div class="row">
      <v-btn class="strong" :disabled="!set.paints.length" @click="$emit('compare')">Other plans…</v-btn>
      <v-btn :aria-expanded="more" @click="more = !more">{{ more ? 'Less' : 'Settings' }}</v-btn>
    </div>
    <p v-if="offered" class="small">
      The saved plan “{{ offered.name }}” knows {{ offered.known }} of these {{ offered.of }} paints.
      <button type="button" class="link" @click="follow(offered)">Use it here</button>
    </p>
    <div v-if="more" class="more">
      <TickBox v-if="recipe.mode === 'kit'" :model-value="recipe.natural" @update:model-value="(natural) => put({ natural })">
        Keep natural tones
        <span class="muted small">{{ natural.length ? `${natural.length} here` : 'none here' }}</span>
      </TickBox>
      <TickBox
        v-if="recipe.mode === 'kit' || recipe.mode === 'single color'"
        :model-value="recipe.allowed === 'derived shades allowed'"
        @update:model-value="(any) => put({ allowed: any ? 'derived shades allowed' : 'kit steps only' })"
      >
        Allow shades between the steps
      </TickBox>
      <TickBox
        v-if="recipe.mode === 'kit' && recipe.policy === 'branded'"
        :model-value="recipe.action"
        @update:model-value="(action) => put({ action })"
      >
        Use the action color too
      </TickBox>
      <TickBox :model-value="recipe.ends === 'stay'" @update:model-value="(stay) => put({ ends: stay ? 'stay' : 'follow' })">
        White and near-black stay
      </TickBox>
      <div v-for="one in slides" :key="one.field" class="slide">
        <span>{{ one.label }}</span>
        <SlideField
          :label="`${one.label} in percent`"
          :model-value="recipe[one.field]"
          :min="one.min"
          :max="one.max"
          :factor="100"
          unit="%"
          @update:model-value="(value) => put({ [one.field]: value })"
        />
      </div>
      <div v-for="act in acts" :key="act.key" class="row">
        <ActFields
          :act="act"
          :kit="kit"
          :settings="set.acts[act.key]"
          @put="(settings) => changes.act.mutateAsync({ key: act.key, settings }).catch(complain)"
        />
      </div>
      <PlanRules :kit="kit" :set="set" />
      <GuestColors :set="set" />
      <SavedPlans :kit="kit" :set="set" />
      <div class="about">
        <SavedField
          :value="set.name"
          label="Name of the set"
          :longest="120"
          required
          @save="(name) => changes.describe.mutateAsync({ name }).catch(complain)"
        />
        <PickOne
          label="Channel of the set"
          :model-value="set.channel"
          :options="CHANNELS"
          @update:model-value="(channel) => changes.describe.mutateAsync({ channel }).catch(complain)"
        />
        <SavedField
          class="whole"
          :value="set.purpose"
          label="Purpose of the set"
          placeholder="what the set is for"
          :longest="400"
          @save="(purpose) => changes.describe.mutateAsync({ purpose }).catch(complain)"
        />
      </div>
      <p v-if="set.kept_selectors.length" class="small">
        Kept:
        <button
          v-for="selector in set.kept_selectors"
          :key="selector"
          type="button"
          class="link mono"
          :aria-label="`Recolor ${selector} again`"
          @click="changes.keepSelector.mutateAsync({ selector, kept: false }).catch(complain)"
        >
          {{ selector }} ×
        </button>
      </p>
    </div>
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
  grid-template-columns: minmax(0, 1fr);
  gap: 8px;
}
.about {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 110px;
  gap: 6px;
  padding-top: 6px;
  border-top: 1px solid var(--hair);
}
.whole {
  grid-column: 1 / -1;
}
.row {
  display: flex;
  gap: 6px;
}
.row .field {
  flex: 1 1 0;
}
.more {
  max-height: 44vh;
  overflow: auto;
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 6px;
  padding: 8px 0 2px;
  border-top: 1px solid var(--hair);
}
.slide {
  display: grid;
  grid-template-columns: 64px minmax(0, 1fr);
  gap: 8px;
  align-items: center;
}
</style>
