<script setup lang="ts">
import { useTimeout } from '@vueuse/core'
import { computed, ref, watch } from 'vue'

import type { KitView, NudgeView, PairsView, Status, Use } from '@/api/client'
import { comment, useComments, useNudges, useProving } from '@/api/proving'
import { complain, say } from '@/frame/notices'
import { useMe } from '@/frame/session'
import { plain } from '@/parts/picking'
import PickOne from '@/parts/PickOne.vue'
import { decisionsOf, decisionWord, useOf, type At } from './pairs'

const props = defineProps<{ kit: KitView; pairs: PairsView; at: At }>()
defineEmits<{ close: [] }>()

const { mayChange, mayDecide } = useMe()
const ink = computed(() => props.pairs.subjects[props.at.text]!)
const paper = computed(() => props.pairs.subjects[props.at.ground]!)
const ratio = computed(() => props.pairs.ratios[props.at.ground]![props.at.text]!)
const level = computed(() => props.pairs.levels[props.at.ground]![props.at.text]!)
const CHECKS = [
  { what: 'text', needs: '4.5', level: 2 },
  { what: 'large text', needs: '3', level: 1 },
  { what: 'graphics', needs: '3', level: 1 },
  { what: 'text, enhanced', needs: '7', level: 3 },
]
const decision = computed(() =>
  decisionsOf(props.pairs).get(props.at.ground * props.pairs.subjects.length + props.at.text),
)

const bears = computed(() => useOf(props.pairs, props.at))
const uses = computed(() => props.pairs.use_names.slice(props.pairs.use_names.indexOf(bears.value)))
const use = ref<Use>(decision.value?.use ?? bears.value)
watch(uses, (now) => {
  if (!now.includes(use.value)) use.value = now[0]!
})
const note = ref(decision.value?.note ?? '')
const { decide, nudge } = useProving(() => props.kit.id)
function put(status: Status): void {
  const pair = { text: ink.value.token, ground: paper.value.token }
  decide.mutateAsync({ pairs: [pair], status, use: use.value, note: note.value }).catch(complain)
}

/** Of a pair that is only passed by, with an arrow key held, nothing is asked for. */
const rests = useTimeout(150)

const wanted = ref<Use>('body text')
const { data: nudges } = useNudges(() => props.kit, () => ink.value.token, () => paper.value.token, wanted, rests)
/** The sides of a pair that a way changes, with their new codes. */
function sides(way: NudgeView) {
  return [
    { subject: ink.value, code: way.text, step: way.text_step },
    { subject: paper.value, code: way.ground, step: way.ground_step },
  ].flatMap((side) => (side.step === null ? [] : [{ ...side, step: side.step }]))
}
const ways = { text: 'the text', ground: 'the ground', both: 'both' }

const SAID = {
  step: (way: NudgeView) => `Pinned ${sides(way).map(({ subject, step }) => `${subject.name} ${step}`).join(' and ')}`,
  new: () => 'Added as a color of its own.',
  base: () => 'The pair reaches it now.',
}

function take(way: NudgeView, taken_as: keyof typeof SAID): void {
  const said = SAID[taken_as](way)
  nudge
    .mutateAsync({ text: ink.value.token, ground: paper.value.token, use: wanted.value, changes: way.changes, taken_as })
    .then(() => say(said), complain)
}

const about = computed(() => `${ink.value.name} on ${paper.value.name}`)
const { data: comments } = useComments(() => props.kit.id, rests)
const said = computed(() => comments.value?.filter((one) => one.about === about.value) ?? [])
const words = ref('')
async function speak(): Promise<void> {
  if (!words.value.trim()) return
  await comment(props.kit.id, about.value, words.value.trim())
  words.value = ''
}
</script>

<template>
  <aside class="scrolls" :aria-label="about">
    <header>
      <h2>{{ about }}</h2>
      <button type="button" class="link small" @click="$emit('close')">diagnosis</button>
    </header>
    <div class="pair" :style="{ background: paper.seen, color: ink.seen }">
      <p class="large">{{ kit.samples.headline }}</p>
      <p>{{ kit.samples.sentence }}</p>
      <p class="row">
        <svg width="26" height="26" viewBox="0 0 20 20" aria-hidden="true" fill="none" stroke="currentColor" stroke-width="2">
          <path d="M2 13h16l-3 5H5zM10 11V2l6 8z" />
        </svg>
        <span class="press" :style="{ background: ink.seen, color: paper.seen }">{{ kit.samples.action }}</span>
      </p>
    </div>
    <p>
      <strong class="mono ratio">{{ ratio }} : 1</strong>
      <span v-for="check in CHECKS" :key="check.what" class="check small" :class="{ muted: level < check.level }">
        {{ check.what }} {{ level >= check.level ? 'yes' : `no, needs ${check.needs}` }}
      </span>
    </p>

    <section aria-label="Decision">
      <p>
        <strong>{{ decisionWord(decision) }}</strong>
        <span v-if="decision?.by" class="muted small">
          by {{ decision.by }}<template v-if="decision.at">, {{ new Date(decision.at).toLocaleString() }}</template>
        </span>
      </p>
      <p v-if="decision?.reopened && decision.status === 'open'" class="small">{{ decision.reopened }}</p>
      <template v-if="mayDecide">
        <div class="row">
          <PickOne v-model="use" label="Approve for" :options="plain(uses)" />
          <v-btn class="strong" @click="put('approved')">Approve</v-btn>
          <v-btn @click="put('declined')">Decline</v-btn>
          <v-btn v-if="decision" @click="put('open')">Open</v-btn>
        </div>
        <v-text-field v-model="note" class="field" maxlength="2000" placeholder="A note to go with it" aria-label="Note to the decision" />
      </template>
      <p v-else-if="decision?.note" class="small">{{ decision.note }}</p>
    </section>

    <section v-if="mayChange" aria-label="Nudge">
      <div class="row">
        <h2>Nudge</h2>
        <PickOne
          v-model="wanted"
          label="Until it serves"
          :options="pairs.use_names.slice(0, 3).map((one) => ({ value: one, title: `until it serves ${one}` }))"
        />
      </div>
      <p v-if="nudges && !nudges.ways.length" class="muted small">
        {{ Number(ratio) >= Number(nudges.wanted) ? 'It does already.' : 'At these hues there is no way.' }}
      </p>
      <ul v-if="nudges" class="ways">
        <li v-for="way in nudges.ways" :key="way.changes">
          <span class="pair mini" :style="{ background: paper.hex, color: ink.hex }">Text</span>
          <span aria-hidden="true">→</span>
          <span class="pair mini" :style="{ background: way.ground, color: way.text }">Text</span>
          <span class="small">
            {{ ways[way.changes] }} by {{ way.difference }}: <span class="mono">{{ way.ratio }}</span>
          </span>
          <span class="takes small">
            <button type="button" class="link" @click="take(way, 'step')">
              as step {{ sides(way).map((side) => side.step).join(' and ') }}
            </button>
            <button type="button" class="link" @click="take(way, 'new')">as a color of its own</button>
            <button v-hint="'The color itself becomes this one, and all that is made with it follows'" type="button" class="link" @click="take(way, 'base')">
              instead of the color
            </button>
          </span>
        </li>
      </ul>
    </section>

    <section aria-label="Comments">
      <h2>Comments</h2>
      <p v-for="(one, at_) in said" :key="at_" class="small"><strong>{{ one.who }}</strong> {{ one.text }}</p>
      <form v-if="mayDecide" class="row" @submit.prevent="speak().catch(complain)">
        <v-text-field v-model="words" class="field wide" maxlength="2000" placeholder="Say something about it" aria-label="Comment" />
        <v-btn type="submit">Send</v-btn>
      </form>
    </section>
  </aside>
</template>

<style scoped>
aside {
  display: grid;
  gap: 10px;
  align-content: start;
  width: 340px;
  padding: 12px 16px;
  border-left: 1px solid var(--rule);
  background: var(--panel);
}
header,
.row {
  display: flex;
  gap: 8px;
  align-items: center;
}
header {
  justify-content: space-between;
}
section {
  display: grid;
  gap: 6px;
  padding-top: 8px;
  border-top: 1px solid var(--hair);
}
.pair {
  display: grid;
  gap: 5px;
  padding: 12px 14px;
}
.large {
  font-size: 24px;
  font-weight: 700;
  line-height: 1.15;
}
.press {
  padding: 5px 12px;
  font-weight: 600;
}
.ratio {
  margin-right: 8px;
  font-size: 18px;
}
.check + .check::before {
  content: ' · ';
}
.ways {
  display: grid;
  gap: 8px;
}
.ways li {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 7px;
  align-items: center;
}
.mini {
  display: inline-block;
  padding: 4px 9px;
  font-weight: 600;
}
.takes {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 12px;
  width: 100%;
}
.wide {
  flex: 1;
}
</style>
