<script setup lang="ts">
import { refDebounced } from '@vueuse/core'
import { computed, reactive, ref, watch } from 'vue'

import type { ColorView, KitView, SchemeAsked, SchemeView } from '@/api/client'
import { askScheme, useRules } from '@/api/composing'
import { complain } from '@/frame/notices'
import CandidatePanel from '@/gather/CandidatePanel.vue'
import { useCandidates } from '@/parts/candidates'
import ChoiceRow from '@/parts/ChoiceRow.vue'
import { colorKeys, plain } from '@/parts/picking'
import PickOne from '@/parts/PickOne.vue'
import SavedField from '@/parts/SavedField.vue'
import { useLatest } from '@/parts/latest'
import SlideField from '@/parts/SlideField.vue'
import TickBox from '@/parts/TickBox.vue'
import SchemeWheel from './SchemeWheel.vue'

/** Schemes on a wheel: from a base by a rule, or of free points; every point can be dragged or set by numbers. */
const props = defineProps<{ kit: KitView; base: ColorView }>()
const { data: rules } = useRules()

const rule = ref('complementary')
const free = ref(false)
const asked = reactive<Required<Pick<SchemeAsked, 'wheel' | 'lightness' | 'chroma' | 'points'>> & SchemeAsked>({
  wheel: 'perceptual',
  code: props.base.hex,
  lightness: 0,
  chroma: 1,
  points: [],
  // A base of the kit stays where it is, until somebody lets it go.
  locked: true,
})
const scheme = ref<SchemeView>()
const chosen = ref(0)
const point = computed(() => scheme.value?.points[chosen.value])

const latest = useLatest(
  (question: SchemeAsked, signal: AbortSignal) => askScheme(props.kit.id, question, signal),
  take,
  complain,
)

/** What the answer says is where the next question starts from. */
function take(answer: SchemeView): void {
  scheme.value = answer
  const bare = answer.points.map(({ lightness, chroma, hue }) => ({ lightness, chroma, hue }))
  asked.base = bare[0]!
  asked.code = null
  asked.points = free.value ? bare : []
  if (asked.locked && !free.value) Object.assign(asked, { spread: answer.spread, lightness: answer.lightness, chroma: answer.chroma })
  chosen.value = Math.min(chosen.value, bare.length - 1)
}

function ask(more: Partial<SchemeAsked> = {}): void {
  latest.put({ ...asked, ...more, rule: free.value ? null : rule.value, locked: asked.locked && !free.value })
}

// Before anything is asked: the points stay where they are when the rule is let go.
watch(free, (now) => {
  if (now) asked.points = (scheme.value?.points ?? []).map(({ lightness, chroma, hue }) => ({ lightness, chroma, hue }))
})
watch(rule, () => (asked.spread = null))
watch([rule, free, () => asked.wheel, () => asked.spread, () => asked.lightness, () => asked.chroma], () => ask(), { immediate: true })
watch(() => props.kit.history.revision, () => ask())

const from = ref(props.base.key)
function startFrom(key: string): void {
  const code = props.kit.colors.find((color) => color.key === key)?.hex
  if (!code) return
  from.value = key
  asked.locked = true
  asked.base = null
  asked.points = []
  free.value = false
  asked.code = code
  ask({ base: null, code })
}

/** The whole scheme a little lighter, softer, warmer: then its base is no longer that of the kit. */
function tune({ points }: SchemeView['tuned'][number]['schemes'][number]): void {
  asked.locked = false
  asked.code = null
  if (free.value) asked.points = points
  else asked.base = points[0]!
  ask()
}

function put(code: string): void {
  // Who types the base in means to have another one.
  if (chosen.value === 0) asked.locked = false
  ask({ put: { point: chosen.value, code } })
}

// The list follows once the hand rests.
const settled = refDebounced(computed(() => scheme.value?.points.map((one) => one.hex) ?? []), 250)
const found = useCandidates(
  () => props.kit,
  () => settled.value,
)
</script>

<template>
  <div class="wheel">
    <section class="make" aria-labelledby="wheel-title">
      <header>
        <h1 id="wheel-title">Wheel</h1>
        <span class="small">from</span>
        <PickOne class="base" label="Base of the scheme" :model-value="from" :options="colorKeys(kit.colors)" @update:model-value="startFrom" />
        <span class="small">scheme</span>
        <PickOne v-model="rule" class="base" label="Scheme" :disabled="free" :options="plain((rules ?? []).map((entry) => entry.name))" />
        <ChoiceRow
          v-model="asked.wheel"
          label="Wheel"
          :options="[
            { value: 'perceptual', label: 'perceptual' },
            { value: 'painters', label: 'painters’' },
          ]"
        />
        <TickBox v-model="asked.locked" v-hint="'Partners that are dragged change the scheme around it, and the base stays'" class="small" :disabled="free">lock the base</TickBox>
        <TickBox v-model="free" class="small">let the rule go</TickBox>
      </header>
      <div class="body">
        <SchemeWheel v-if="scheme" v-model:chosen="chosen" :scheme="scheme" :wheel="asked.wheel" @move="ask({ move: $event })" />
        <div class="fields">
          <template v-if="!free">
            <div v-if="scheme?.most_spread" class="slid">
              spread
              <SlideField label="Spread in degrees" :model-value="scheme.spread" :min="0" :max="scheme.most_spread" unit="°" live @update:model-value="(spread) => (asked.spread = spread)" />
            </div>
            <div class="slid">
              partners’ lightness
              <SlideField v-model="asked.lightness" label="Lightness of the partners" :min="-50" :max="50" :factor="100" live />
            </div>
            <div class="slid">
              partners’ chroma
              <SlideField v-model="asked.chroma" label="Chroma of the partners" :min="0" :max="200" :step="2" :factor="100" unit="%" live />
            </div>
          </template>
          <template v-if="point">
            <p class="small">
              <strong>{{ chosen === 0 ? 'Base' : `Point ${chosen + 1}` }}</strong>, {{ point.description }}
              <template v-if="point.reduced">; wanted more chroma than the screen has</template>
            </p>
            <label v-for="(value, kind) in point.notations" :key="kind" class="number">
              <span class="muted">{{ kind }}</span>
              <SavedField class="mono" :value="value" :label="`${kind} of the point`" :longest="200" required @save="put" />
            </label>
          </template>
          <section v-if="scheme" class="tuned" aria-label="The whole scheme, changed a little">
            <div v-for="row in scheme.tuned" :key="row.direction" class="turn" role="group" :aria-label="row.direction">
              <span class="muted small">{{ row.direction }}</span>
              <span class="steps">
                <button
                  v-for="one in row.schemes"
                  :key="one.by"
                  v-hint="one.colors.join(', ')"
                  type="button"
                  :class="{ behind: one.by > 0 }"
                  :aria-label="`${row.direction}, ${one.by > 0 ? '+' : '−'}${Math.abs(one.by)}`"
                  @click="tune(one)"
                >
                  <i v-for="(hex, at) in one.colors" :key="at" :style="{ background: hex }" />
                </button>
                <span class="now" aria-hidden="true"><i v-for="(one, at) in scheme.points" :key="at" :style="{ background: one.hex }" /></span>
              </span>
            </div>
          </section>
          <p class="muted small">Drag a point, or step it with the arrow keys. The dashed line is where the screen ends.</p>
        </div>
      </div>
      <ul v-if="scheme" class="points" aria-label="Points of the scheme">
        <li v-for="(one, at) in scheme.points" :key="at">
          <button type="button" :class="{ on: at === chosen }" :style="{ background: one.hex, color: one.ink }" :aria-pressed="at === chosen" @click="chosen = at">
            <span class="mono">{{ one.hex }}</span>{{ one.reduced ? ' reduced' : '' }}
          </button>
        </li>
      </ul>
    </section>
    <CandidatePanel class="holds" :kit="kit" :found="found" verb="in the scheme" />
  </div>
</template>

<style scoped>
.wheel {
  display: grid;
  grid-template-columns: 1fr min(420px, 38%);
  flex: 1;
  min-height: 0;
}
.make {
  display: flex;
  flex-direction: column;
  min-width: 0;
  min-height: 0;
  border-right: 1px solid var(--rule);
}
header {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 12px;
  align-items: center;
  padding: 10px 16px 6px;
}
.body {
  display: grid;
  grid-template-columns: minmax(260px, 1fr) 232px;
  flex: 1;
  gap: 16px;
  min-height: 0;
  padding: 0 16px;
}
.fields {
  display: flex;
  flex-direction: column;
  gap: 7px;
  overflow: auto;
}
.slid {
  display: grid;
  font-size: 13px;
}
.base {
  flex: 0 1 150px;
}
.tuned {
  display: grid;
  gap: 5px;
}
.steps {
  display: flex;
  gap: 3px;
}
.steps > * {
  display: flex;
  flex: 1;
  max-width: 42px;
  height: 22px;
  padding: 0;
  border: 0;
}
.steps button {
  cursor: pointer;
}
.steps button:hover {
  outline: 2px solid var(--ink);
}
.steps i {
  flex: 1;
}
.now {
  order: 1;
  outline: 2px solid var(--ink);
  outline-offset: -2px;
}
.behind {
  order: 2;
}
.number {
  display: grid;
  grid-template-columns: 44px 1fr;
  align-items: center;
  font-size: 12px;
}
.points {
  display: flex;
  flex: none;
  height: 62px;
  margin: 8px 16px 12px;
}
.points li {
  flex: 1;
}
.points button {
  width: 100%;
  height: 100%;
  border: 0;
  cursor: pointer;
}
.points .on {
  box-shadow: inset 0 0 0 3px currentColor;
}
</style>
