<script setup lang="ts">
import { refDebounced } from '@vueuse/core'
import { computed, reactive, ref, watch } from 'vue'

import type { ColorView, KitView, SchemeAsked, SchemeView } from '@/api/client'
import { askScheme, useRules } from '@/api/composing'
import { complain } from '@/frame/notices'
import CandidatePanel from '@/gather/CandidatePanel.vue'
import { useCandidates } from '@/parts/candidates'
import ChoiceRow from '@/parts/ChoiceRow.vue'
import SavedField from '@/parts/SavedField.vue'
import { useLatest } from '@/parts/latest'
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
  chosen.value = Math.min(chosen.value, bare.length - 1)
}

function ask(more: Partial<SchemeAsked> = {}): void {
  latest.put({ ...asked, ...more, rule: free.value ? null : rule.value })
}

// Before anything is asked: the points stay where they are when the rule is let go.
watch(free, (now) => {
  if (now) asked.points = (scheme.value?.points ?? []).map(({ lightness, chroma, hue }) => ({ lightness, chroma, hue }))
})
watch(rule, () => (asked.spread = null))
watch([rule, free, () => asked.wheel, () => asked.spread, () => asked.lightness, () => asked.chroma], () => ask(), { immediate: true })
watch(() => props.kit.history.revision, () => ask())

function startFrom(code: string): void {
  asked.base = null
  asked.points = []
  free.value = false
  asked.code = code
  ask({ base: null, code })
}

function put(code: string): void {
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
        <label class="small">
          from
          <select class="field" aria-label="Base of the scheme" @change="startFrom(($event.target as HTMLSelectElement).value)">
            <option v-for="color in kit.colors" :key="color.key" :value="color.hex" :selected="color.key === base.key">{{ color.name }}</option>
          </select>
        </label>
        <label class="small">
          scheme
          <select v-model="rule" class="field" aria-label="Scheme" :disabled="free">
            <option v-for="entry in rules" :key="entry.name" :value="entry.name">{{ entry.name }}</option>
          </select>
        </label>
        <ChoiceRow
          v-model="asked.wheel"
          label="Wheel"
          :options="[
            { value: 'perceptual', label: 'perceptual' },
            { value: 'painters', label: 'painters’' },
          ]"
        />
        <label class="small"><input v-model="free" type="checkbox" /> let the rule go</label>
      </header>
      <div class="body">
        <SchemeWheel v-if="scheme" v-model:chosen="chosen" :scheme="scheme" :wheel="asked.wheel" @move="ask({ move: $event })" />
        <div class="fields">
          <template v-if="!free">
            <label v-if="scheme?.most_spread">
              spread <span class="mono">{{ Math.round(scheme.spread) }}°</span>
              <input type="range" min="0" :max="scheme.most_spread" step="1" :value="scheme.spread" aria-label="Spread in degrees" @input="asked.spread = Number(($event.target as HTMLInputElement).value)" />
            </label>
            <label>
              partners’ lightness <span class="mono">{{ Math.round((asked.lightness ?? 0) * 100) }}</span>
              <input v-model.number="asked.lightness" type="range" min="-0.5" max="0.5" step="0.01" aria-label="Lightness of the partners" />
            </label>
            <label>
              partners’ chroma <span class="mono">{{ Math.round((asked.chroma ?? 1) * 100) }} %</span>
              <input v-model.number="asked.chroma" type="range" min="0" max="2" step="0.02" aria-label="Chroma of the partners" />
            </label>
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
.fields > label:not(.number) {
  display: grid;
  grid-template-columns: 1fr auto;
  font-size: 13px;
}
.fields input[type='range'] {
  grid-column: 1 / -1;
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
