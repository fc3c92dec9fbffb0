<script setup lang="ts">
import { computed } from 'vue'

import type { KitView, Recipe, SetView } from '@/api/client'
import { useSetChanges } from '@/api/sets'
import { complain } from '@/frame/notices'
import { plain } from '@/parts/picking'
import PickOne from '@/parts/PickOne.vue'
import SavedField from '@/parts/SavedField.vue'
import SlideField from '@/parts/SlideField.vue'
import TickBox from '@/parts/TickBox.vue'
import ActFields from './ActFields.vue'
import { useActs } from './acts'
import GuestColors from './GuestColors.vue'
import PlanRules from './PlanRules.vue'
import SavedPlans from './SavedPlans.vue'

/** How the plan is made in detail: what is left alone, how strong, rules, guests, saved plans; and what the set is called. */
const props = defineProps<{ kit: KitView; set: SetView }>()
defineEmits<{ close: [] }>()
const changes = useSetChanges(() => props.set.id)

const recipe = computed(() => props.set.recipe)
const natural = computed(() => props.set.paints.filter((paint) => paint.natural && !paint.part))

function put(change: Partial<Recipe>): void {
  changes.recipe.mutateAsync({ ...recipe.value, ...change, forget: false }).catch(complain)
}

const acts = useActs()

const CHANNELS = plain(['icons', 'illustrations', 'email', 'slides', 'motion', 'images'] as const)
const slides = computed(() => [
  ...(recipe.value.mode === 'greyscale' ? [{ field: 'tint' as const, label: 'Tint', min: 0, max: 100 }] : []),
  { field: 'strength' as const, label: 'Strength', min: 0, max: 100 },
  { field: 'low' as const, label: 'Darkest', min: 0, max: 60 },
  { field: 'high' as const, label: 'Lightest', min: 70, max: 100 },
])
</script>

<template>
  <section class="settings scrolls" aria-label="Settings of the plan">
    <header>
      <h2>Settings</h2>
      <button type="button" class="link small" @click="$emit('close')">close</button>
    </header>
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
        @save="(name, was) => changes.describe.mutateAsync({ name, was }).catch(complain)"
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
  </section>
</template>

<style scoped>
.settings {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 8px;
  align-content: start;
  flex: none;
  width: 272px;
  padding: 12px 14px;
  border-right: 1px solid var(--rule);
}
header {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
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
.slide {
  display: grid;
  grid-template-columns: 60px minmax(0, 1fr);
  gap: 8px;
  align-items: center;
}
</style>
