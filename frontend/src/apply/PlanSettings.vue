<script setup lang="ts">
import { computed, ref } from 'vue'

import type { KitView, Recipe, SetView } from '@/api/client'
import { usePlans, usePlanSaving, useSetChanges } from '@/api/queries'
import { complain, say } from '@/frame/notices'
import SavedField from '@/parts/SavedField.vue'
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

const CHANNELS = ['icons', 'illustrations', 'email', 'slides', 'motion', 'images'] as const
const MODES = ['kit', 'single color', 'greyscale', 'two-tone'] as const
const slides = computed(() => [
  ...(recipe.value.mode === 'greyscale' ? [{ field: 'tint' as const, label: 'Tint', min: 0, max: 100 }] : []),
  { field: 'strength' as const, label: 'Strength', min: 0, max: 100 },
  { field: 'low' as const, label: 'Darkest', min: 0, max: 60 },
  { field: 'high' as const, label: 'Lightest', min: 70, max: 100 },
])
const value = (event: Event) => (event.target as HTMLSelectElement).value
const checked = (event: Event) => (event.target as HTMLInputElement).checked
const share = (event: Event) => Number(value(event)) / 100
</script>

<template>
  <section class="plan" aria-label="Plan">
    <div class="row">
      <select class="field" aria-label="Mode" :value="otherMode ?? recipe.mode" @change="chooseMode(value($event) as Recipe['mode'])">
        <option v-for="mode in MODES" :key="mode" :value="mode">{{ mode === 'kit' ? 'kit colors' : mode }}</option>
      </select>
      <select
        v-if="recipe.mode === 'kit'"
        class="field"
        aria-label="Policy"
        :value="recipe.policy"
        @change="put({ policy: value($event) as Recipe['policy'] })"
      >
        <option value="faithful">faithful</option>
        <option value="branded">branded</option>
      </select>
      <select
        v-else-if="recipe.mode !== 'two-tone'"
        class="field"
        aria-label="Color of the mode"
        :value="recipe.color ?? ''"
        @change="put({ color: value($event) || null })"
      >
        <option value="">the kit's main color</option>
        <option v-for="color in kit.colors" :key="color.key" :value="color.key">{{ color.name }}</option>
      </select>
      <template v-else>
        <select class="field" aria-label="Dark color" :value="recipe.dark ?? ''" @change="put({ dark: value($event) || null })">
          <option value="">dark</option>
          <option v-for="color in kit.colors" :key="color.key" :value="`${color.key}.base`">{{ color.name }}</option>
        </select>
        <select class="field" aria-label="Light color" :value="recipe.light ?? ''" @change="put({ light: value($event) || null })">
          <option value="">light</option>
          <option v-for="color in kit.colors" :key="color.key" :value="`${color.key}.base`">{{ color.name }}</option>
        </select>
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
      <label v-if="recipe.mode === 'kit'" class="tick">
        <input type="checkbox" :checked="recipe.natural" @change="put({ natural: checked($event) })" />
        Keep natural tones
        <span class="muted small">{{ natural.length ? `${natural.length} here` : 'none here' }}</span>
      </label>
      <label v-if="recipe.mode === 'kit' || recipe.mode === 'single color'" class="tick">
        <input
          type="checkbox"
          :checked="recipe.allowed === 'derived shades allowed'"
          @change="put({ allowed: checked($event) ? 'derived shades allowed' : 'kit steps only' })"
        />
        Allow shades between the steps
      </label>
      <label v-if="recipe.mode === 'kit' && recipe.policy === 'branded'" class="tick">
        <input type="checkbox" :checked="recipe.action" @change="put({ action: checked($event) })" />
        Use the action color too
      </label>
      <label class="tick">
        <input type="checkbox" :checked="recipe.ends === 'stay'" @change="put({ ends: checked($event) ? 'stay' : 'follow' })" />
        White and near-black stay
      </label>
      <label v-for="one in slides" :key="one.field" class="slide">
        <span>{{ one.label }}</span>
        <input
          type="range"
          :min="one.min"
          :max="one.max"
          :value="recipe[one.field] * 100"
          :aria-label="`${one.label} in percent`"
          @change="put({ [one.field]: share($event) })"
        />
        <span class="mono">{{ Math.round(recipe[one.field] * 100) }} %</span>
      </label>
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
        <select
          class="field"
          aria-label="Channel of the set"
          :value="set.channel"
          @change="changes.describe.mutateAsync({ channel: value($event) as SetView['channel'] }).catch(complain)"
        >
          <option v-for="channel in CHANNELS" :key="channel" :value="channel">{{ channel }}</option>
        </select>
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
.tick {
  display: flex;
  gap: 8px;
  align-items: center;
}
.slide {
  display: grid;
  grid-template-columns: 64px 1fr 44px;
  gap: 8px;
  align-items: center;
}
.slide .mono {
  text-align: right;
}
</style>
