<script setup lang="ts">
import { computed, reactive, ref, watch } from 'vue'

import type { KitView, Level, Status, Use, Vision } from '@/api/client'
import { usePairs, useProving } from '@/api/proving'
import { complain, say } from '@/frame/notices'
import { useMe } from '@/frame/session'
import ChoiceRow from '@/parts/ChoiceRow.vue'
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
const levels = computed(() =>
  (Object.keys(LEVEL_WORDS) as Level[]).map((level) => ({
    level,
    label: `${LEVEL_WORDS[level]} (${pairs.value?.counts[level] ?? 0})`,
  })),
)
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
        <select v-model="filter.level" class="field" aria-label="Level">
          <option value="">every level</option>
          <option v-for="entry in levels" :key="entry.level" :value="entry.level">{{ entry.label }}</option>
        </select>
        <select v-model="filter.color" class="field" aria-label="Color">
          <option value="">every color</option>
          <option v-for="color in kit.colors" :key="color.key" :value="color.key">{{ color.name }}</option>
        </select>
        <select v-model="filter.role" class="field" aria-label="Role">
          <option value="">every role</option>
          <option v-for="role in ROLE_NAMES" :key="role" :value="role">{{ role }}</option>
        </select>
        <select v-model="filter.decision" class="field" aria-label="Decision">
          <option value="">decided or not</option>
          <option value="open">open</option>
          <option value="approved">approved</option>
          <option value="declined">declined</option>
          <option value="reopened">open again</option>
        </select>
        <select v-if="shape === 'list'" v-model="sort" class="field" aria-label="Order">
          <option value="best">best first</option>
          <option value="worst">worst first</option>
          <option value="kit">as in the kit</option>
        </select>
        <select v-model="vision" class="field" aria-label="Seen with">
          <option v-for="entry in VISIONS" :key="entry.vision" :value="entry.vision">{{ entry.seen }}</option>
        </select>
        <StepSwitches v-if="mayChange" :kit="kit" :subjects="pairs.subjects" />
      </div>
      <div class="tools bulk">
        <span class="small">
          {{ shown.length.toLocaleString() }} {{ shown.length === 1 ? 'pair' : 'pairs' }}
          <span class="muted">{{ filtered ? 'pass the filter' : 'in all; ratios are cut, never rounded up' }}</span>
        </span>
        <template v-if="mayDecide && filtered && shown.length">
          <span class="small">all of them:</span>
          <select v-model="bulkUse" class="field" aria-label="Approve all for">
            <option value="">what each bears</option>
            <option v-for="use in pairs.use_names" :key="use" :value="use">{{ use }}</option>
          </select>
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
.tools select {
  width: 118px;
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
