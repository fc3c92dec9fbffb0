<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRoute } from 'vue-router'

import type { ColorView } from '@/api/client'
import { useKit, useKitChanges } from '@/api/kits'
import { useKitDraft } from '@/frame/kitDraft'
import { complain } from '@/frame/notices'
import { useSubviews } from '@/frame/subviews'
import ChoiceRow from '@/parts/ChoiceRow.vue'
import EmptyState from '@/parts/EmptyState.vue'
import UndoButtons from '@/parts/UndoButtons.vue'
import ColorPanel from './ColorPanel.vue'
import FamiliesView from './FamiliesView.vue'
import GapsView from './GapsView.vue'
import LogoView from './LogoView.vue'
import NamesView from './NamesView.vue'
import ProportionsView from './ProportionsView.vue'
import RampsView from './RampsView.vue'
import TypeView from './TypeView.vue'
import WheelView from './WheelView.vue'

const route = useRoute()
const kitId = computed(() => route.params.kitId as string)
const { data: kit } = useKit(kitId)
const { add } = useKitChanges(kitId)

const VIEWS = [
  { value: 'ramps', label: 'ramps' },
  { value: 'wheel', label: 'wheel' },
  { value: 'families', label: 'tone families' },
  { value: 'gaps', label: 'fill the gaps' },
  { value: 'names', label: 'names' },
  { value: 'proportions', label: 'proportions' },
  { value: 'logo', label: 'logo' },
  { value: 'type', label: 'type' },
] as const
const view = useSubviews('compose', VIEWS)
/** The views in which one color is at hand, beside the whole. */
const withPanel = computed(() => view.value === 'ramps' || view.value === 'families')

const chosenKey = ref<string>()
const chosen = computed(() => kit.value?.colors.find((color) => color.key === chosenKey.value) ?? kit.value?.colors[0])

/** A color found near the chosen one becomes a color of its own, named after it until someone gives it a name. */
function addNear(hex: string): void {
  if (chosen.value) addBeside(chosen.value, hex, `${chosen.value.name} ${hex.slice(1)}`)
}

/** A step of a ramp as a color of its own, with a ramp, a role and a name that can be another. */
function ownStep(key: string, step: number): void {
  const color = kit.value?.colors.find((one) => one.key === key)
  const found = color?.steps.find((one) => one.step === step)
  if (color && found) addBeside(color, found.hex, `${color.name} ${step}`)
}

function addBeside(beside: ColorView, hex: string, name: string): void {
  add
    .mutateAsync([{ name, role: beside.role === 'neutral' ? 'neutral' : 'accent', code: hex }])
    .then((kit) => (chosenKey.value = kit.colors.find((color) => color.name === name)?.key), complain)
}

const { history, undoIt, redoIt } = useKitDraft(kitId, kit)
</script>

<template>
  <div v-if="kit" class="compose">
    <section class="work">
      <header>
        <ChoiceRow v-model="view" label="View of the kit" :options="[...VIEWS]" />
        <span class="gap" />
        <UndoButtons v-if="history" :history="history" @undo="undoIt" @redo="redoIt" />
        <v-btn class="strong" :to="{ name: 'gather', params: { kitId } }">Add colors</v-btn>
      </header>
      <GapsView v-if="view === 'gaps'" :kit="kit" />
      <EmptyState v-else-if="!kit.colors.length" title="No colors yet">
        A kit begins with what you have: a logo, pictures, a page, a list of codes; or let colors be proposed.
        <template #actions>
          <v-btn class="strong" :to="{ name: 'gather', params: { kitId } }">Gather colors</v-btn>
          <v-btn @click="view = 'gaps'">Fill the gaps</v-btn>
        </template>
      </EmptyState>
      <RampsView v-else-if="view === 'ramps'" :kit="kit" :chosen="chosen?.key" @choose="chosenKey = $event" @own="ownStep" />
      <WheelView v-else-if="view === 'wheel' && chosen" :kit="kit" :base="chosen" />
      <FamiliesView
        v-else-if="view === 'families' && chosen"
        :kit="kit"
        :chosen="chosen"
        @choose="chosenKey = $event"
        @add="addNear"
      />
      <NamesView v-else-if="view === 'names'" :kit="kit" />
      <ProportionsView v-else-if="view === 'proportions'" :kit="kit" />
      <LogoView v-else-if="view === 'logo'" :kit="kit" />
      <TypeView v-else-if="view === 'type'" :kit="kit" />
    </section>
    <ColorPanel
      v-if="chosen && withPanel"
      :key="chosen.key"
      :kit="kit"
      :color="chosen"
      @add="addNear"
      @choose="chosenKey = $event"
    />
  </div>
</template>

<style scoped>
.compose {
  display: flex;
  flex: 1;
  min-height: 0;
}
.work {
  display: flex;
  flex-direction: column;
  flex: 1;
  min-width: 0;
  min-height: 0;
}
header {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 8px;
  align-items: center;
  padding: 10px 16px 0;
}
header :deep(label) {
  padding: 4px 8px;
  white-space: nowrap;
}
.gap {
  flex: 1;
}
</style>
