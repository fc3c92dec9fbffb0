<script setup lang="ts">
import { computed } from 'vue'
import { useRoute } from 'vue-router'

import { useKit } from '@/api/kits'
import { useKitDraft } from '@/frame/kitDraft'
import { useSubviews } from '@/frame/subviews'
import ChoiceRow from '@/parts/ChoiceRow.vue'
import EmptyState from '@/parts/EmptyState.vue'
import UndoButtons from '@/parts/UndoButtons.vue'
import EditionsView from './EditionsView.vue'
import PairsView from './PairsView.vue'
import RulesView from './RulesView.vue'
import SeeThroughView from './SeeThroughView.vue'
import StatesView from './StatesView.vue'
import TriosView from './TriosView.vue'
import VisionView from './VisionView.vue'

const route = useRoute()
const kitId = computed(() => route.params.kitId as string)
const { data: kit } = useKit(kitId)

const VIEWS = [
  { value: 'pairs', label: 'pairs' },
  { value: 'trios', label: 'trios' },
  { value: 'vision', label: 'color vision' },
  { value: 'see-through', label: 'see-through' },
  { value: 'states', label: 'states' },
  { value: 'rules', label: 'rules' },
  { value: 'editions', label: 'editions' },
] as const
const view = useSubviews('prove', VIEWS)
/** Only pairs, trios and color vision need two colors. */
const tooFew = computed(() => {
  const count = kit.value?.colors.length ?? 0
  return view.value === 'editions' ? false : ['pairs', 'trios', 'vision'].includes(view.value) ? count < 2 : count < 1
})

const { history, undoIt, redoIt } = useKitDraft(kitId, kit)
</script>

<template>
  <div v-if="kit" class="prove">
    <h1 class="unseen">Prove: {{ VIEWS.find((entry) => entry.value === view)!.label }}</h1>
    <header>
      <ChoiceRow v-model="view" label="View of the proof" :options="[...VIEWS]" />
      <span class="gap" />
      <UndoButtons v-if="history" :history="history" @undo="undoIt" @redo="redoIt" />
    </header>
    <EmptyState v-if="tooFew" :title="view === 'pairs' ? 'A pair needs two colors' : 'Too few colors yet'">
      With two or more colors in the kit, every pair is shown here as real text on its ground.
      <template #actions>
        <v-btn class="strong" :to="{ name: 'gather', params: { kitId } }">Add colors</v-btn>
      </template>
    </EmptyState>
    <PairsView v-else-if="view === 'pairs'" :kit="kit" />
    <TriosView v-else-if="view === 'trios'" :kit="kit" />
    <VisionView v-else-if="view === 'vision'" :kit="kit" />
    <SeeThroughView v-else-if="view === 'see-through'" :kit="kit" />
    <StatesView v-else-if="view === 'states'" :kit="kit" />
    <RulesView v-else-if="view === 'rules'" :kit="kit" />
    <EditionsView v-else :kit="kit" />
  </div>
</template>

<style scoped>
.prove {
  display: flex;
  flex-direction: column;
  flex: 1;
  min-width: 0;
  min-height: 0;
}
header {
  display: flex;
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
