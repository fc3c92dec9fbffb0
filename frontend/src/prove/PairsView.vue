<script setup lang="ts">
import { computed, reactive, ref, watch } from 'vue'

import type { KitView, Level, Status, Use, Vision } from '@/api/client'
import { usePairs, useProving } from '@/api/proving'
import { complain, say } from '@/frame/notices'
import { useMe } from '@/frame/session'
import ChoiceRow from '@/parts/ChoiceRow.vue'
import { colorKeys, type Option, plain } from '@/parts/picking'
import PickOne from '@/parts/PickOne.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { ROLE_NAMES } from '@/parts/roles'
import DiagnosisPanel from './DiagnosisPanel.vue'
import PairList from './PairList.vue'
import PairMatrix from './PairMatrix.vue'
import PairPanel from './PairPanel.vue'
import { decisionsOf, LEVEL_WORDS, listed, type At, type Filter, type Sort } from './pairs'
import StepSwitches from './StepSwitches.vue'
import { VISIONS } from './visions'

const props = defineProps<{ kit: KitView }>()
const { mayChange, mayDecide } = useMe()

const vision = ref<Vision>('usual')
const { data: pairs, error, refetch } = usePairs(() => props.kit, vision, 100)
const { decide } = useProving(() => props.kit.id)

const shape = ref<'matrix' | 'list'>('matrix')
const SHAPES = [
  { value: 'matrix', label: 'matrix' },
  { value: 'list', label: 'list' },
] as const
const filter = reactive<Filter>({ level: '', role: '', color: '', decision: '' })
const sort = ref<Sort>('best')
const levels = computed<Option<Level | ''>[]>(() => [
  { value: '', title: 'every level' },
  ...(Object.keys(LEVEL_WORDS) as Level[]).map((level) => ({
    value: level,
    title: `${LEVEL_WORDS[level]} (${pairs.value?.counts[level] ?? 0})`,
  })),
])
const DECISIONS: Option<Filter['decision']>[] = [
  { value: '', title: 'decided or not' },
  ...plain(['open', 'approved', 'declined'] as const),
  { value: 'reopened', title: 'open again' },
]
const SORTS: Option<Sort>[] = [
  { value: 'best', title: 'best first' },
  { value: 'worst', title: 'worst first' },
  { value: 'kit', title: 'as in the kit' },
]
const shown = computed(() => (pairs.value ? listed(pairs.value, decisionsOf(pairs.value), filter, sort.value) : []))
const filtered = computed(() => Object.values(filter).some(Boolean))

/** The chosen pair by its tokens, so that it stays chosen when colors move. */
const chosen = ref<{ text: string; ground: string }>()
const at = computed<At | undefined>(() => {
  const subjects = pairs.value?.subjects ?? []
  const text = subjects.findIndex((subject) => subject.token === chosen.value?.text)
  const ground = subjects.findIndex((subject) => subject.token === chosen.value?.ground)
  return text < 0 || ground < 0 ? undefined : { text, ground }
})
function choose(to: At): void {
  const subjects = pairs.value!.subjects
  chosen.value = { text: subjects[to.text]!.token, ground: subjects[to.ground]!.token }
}

const bulkUse = ref<Use | ''>('')
async function decideAll(status: Status): Promise<void> {
  const subjects = pairs.value!.subjects
  const found = shown.value.map((one) => ({ text: subjects[one.text]!.token, ground: subjects[one.ground]!.token }))
  await decide.mutateAsync({ pairs: found, status, ...(bulkUse.value ? { use: bulkUse.value } : {}) })
  say(`${found.length} pairs: ${status}`)
}

// What was said of broken approvals is told once, where it is seen.
watch(
  () => pairs.value?.decisions.filter((decision) => decision.reopened && decision.status === 'open').length ?? 0,
  (now, before) => {
    if (now > (before ?? now)) say(`${now} approvals are open again, because a color changed.`)
  },
)
</script>

<template>
  <ProblemNote v-if="error" :error="error" @again="refetch()" />
  <div v-else-if="pairs" class="pairs">
    <section class="whole">
      <div class="tools">
        <ChoiceRow v-model="shape" label="Pairs as" :options="[...SHAPES]" />
        <PickOne v-model="filter.level" label="Level" :options="levels" />
        <PickOne v-model="filter.color" label="Color" :options="[{ value: '', title: 'every color' }, ...colorKeys(kit.colors)]" />
        <PickOne v-model="filter.role" label="Role" :options="[{ value: '', title: 'every role' }, ...plain(ROLE_NAMES)]" />
        <PickOne v-model="filter.decision" label="Decision" :options="DECISIONS" />
        <PickOne v-if="shape === 'list'" v-model="sort" label="Order" :options="SORTS" />
        <PickOne v-model="vision" label="Seen with" :options="VISIONS.map((entry) => ({ value: entry.vision, title: entry.seen }))" />
        <StepSwitches v-if="mayChange" :kit="kit" :subjects="pairs.subjects" />
      </div>
      <div class="tools bulk">
        <span class="small">
          {{ shown.length.toLocaleString() }} {{ shown.length === 1 ? 'pair' : 'pairs' }}
          <span class="muted">{{ filtered ? 'pass the filter' : 'in all; ratios are cut, never rounded up' }}</span>
        </span>
        <template v-if="mayDecide && filtered && shown.length">
          <span class="small">all of them:</span>
          <PickOne v-model="bulkUse" label="Approve all for" :options="[{ value: '', title: 'what each bears' }, ...plain(pairs.use_names)]" />
          <v-btn @click="decideAll('approved').catch(complain)">Approve</v-btn>
          <v-btn @click="decideAll('declined').catch(complain)">Decline</v-btn>
          <v-btn @click="decideAll('open').catch(complain)">Open</v-btn>
        </template>
        <span class="legend small muted">
          <i class="key approved" /> approved <i class="key declined" /> declined <i class="key reopened" /> open again
        </span>
      </div>
      <PairMatrix v-if="shape === 'matrix'" :pairs="pairs" :filter="filter" :chosen="at" @choose="choose" />
      <PairList v-else :pairs="pairs" :shown="shown" :chosen="at" @choose="choose" />
    </section>
    <PairPanel v-if="at && chosen" :key="`${chosen.text} ${chosen.ground}`" :kit="kit" :pairs="pairs" :at="at" @close="chosen = undefined" />
    <DiagnosisPanel v-else :kit="kit" :subjects="pairs.subjects" />
  </div>
</template>

<style scoped>
.pairs {
  display: flex;
  flex: 1;
  min-height: 0;
}
.whole {
  display: flex;
  flex-direction: column;
  flex: 1;
  min-width: 0;
}
.tools {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 8px;
  align-items: center;
  padding: 10px 16px 0;
}
.bulk {
  min-height: 40px;
  padding: 5px 16px;
}
.tools .field {
  flex: 0 1 124px;
}
.legend {
  display: inline-flex;
  gap: 5px;
  align-items: center;
  margin-left: auto;
}
.key {
  width: 9px;
  height: 9px;
  margin-left: 8px;
  border: 1px solid var(--ink);
}
.key.approved {
  background: var(--ink);
}
.key.declined {
  background: linear-gradient(135deg, transparent 44%, var(--ink) 44% 56%, transparent 56%);
}
.key.reopened {
  background: linear-gradient(90deg, var(--ink) 50%, transparent 50%);
}
</style>
