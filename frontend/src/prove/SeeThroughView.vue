<script setup lang="ts">
import { computed, ref, watch } from 'vue'

import type { KitView, SeeThrough, SeeThroughView } from '@/api/client'
import { previewSeeThrough, useProving, useSeeThrough } from '@/api/proving'
import { complain, copy } from '@/frame/notices'
import { useMe } from '@/frame/session'
import ChoiceRow from '@/parts/ChoiceRow.vue'
import { useLatest } from '@/parts/latest'
import { baseTokens, colorKeys, plain } from '@/parts/picking'
import PickOne from '@/parts/PickOne.vue'
import SlideField from '@/parts/SlideField.vue'
import ChromaPlot from './ChromaPlot.vue'
import ThroughStrips from './ThroughStrips.vue'

const props = defineProps<{ kit: KitView }>()
const { data: found } = useSeeThrough(() => props.kit)
const { seeThrough } = useProving(() => props.kit.id)
const { mayChange } = useMe()

const chosen = ref(0)
const current = computed(() => found.value?.[Math.min(chosen.value, found.value.length - 1)])
/** What is shown while a setting is being dragged; the saved one otherwise. */
const trial = ref<SeeThroughView>()
const view = computed(() => trial.value ?? current.value)
watch(current, () => (trial.value = undefined))

const bases = computed(() => [
  { value: 'white', title: 'White', hex: '#ffffff' },
  { value: 'black', title: 'Black', hex: '#000000' },
  ...baseTokens(props.kit.colors),
])
const SHAPES = ['soft', 'even', 'late', 'early'] as const
const SLIDES = [
  { field: 'strength', words: 'Taken at the dark end', min: 0 },
  { field: 'begins', words: 'Begins at', min: 1 },
] as const
const KINDS = [
  { value: 'hex', label: '#RRGGBBAA' },
  { value: 'rgb', label: 'rgb' },
  { value: 'hsl', label: 'hsl' },
] as const
const kind = ref<(typeof KINDS)[number]['value']>('hex')

const { put: preview } = useLatest(
  (setting: SeeThrough, signal) => previewSeeThrough(props.kit.id, setting, signal),
  (answer) => (trial.value = answer),
  complain,
)
type Vividness = SeeThrough['vividness']
const vivid = (): Vividness => view.value!.setting.vividness

function tryOut(change: Partial<Vividness>): void {
  preview({ ...view.value!.setting, vividness: { ...vivid(), ...change } })
}

async function save(settings: SeeThrough[]): Promise<void> {
  await seeThrough.mutateAsync(settings)
}
function put(change: Partial<SeeThrough>): void {
  const settings = (found.value ?? []).map((one) => one.setting)
  const at = found.value!.indexOf(current.value!)
  settings[at] = { ...view.value!.setting, ...change }
  save(settings).catch(complain)
}
const settle = (change: Partial<Vividness>) => put({ vividness: { ...vivid(), ...change } })

async function add(): Promise<void> {
  const settings = (found.value ?? []).map((one) => one.setting)
  const used = new Set(settings.map((one) => one.of))
  const of = (props.kit.colors.find((color) => !used.has(color.key)) ?? props.kit.colors[0])!.key
  await save([...settings, { of, base: 'white', vividness: { shape: 'soft', strength: 0, begins: 60 } }])
  chosen.value = settings.length
}
async function remove(): Promise<void> {
  const gone = current.value
  await save(found.value!.filter((one) => one !== gone).map((one) => one.setting))
  chosen.value = 0
}
</script>

<template>
  <div v-if="found" class="through">
    <nav class="scrolls" aria-label="See-through settings">
      <button
        v-for="(one, at) in found"
        :key="at"
        type="button"
        class="setting"
        :class="{ on: one === current }"
        :aria-pressed="one === current"
        @click="chosen = at"
      >
        <span class="chips" aria-hidden="true">
          <i v-for="step in one.steps" :key="step.step" :style="{ background: step.solid }" />
        </span>
        {{ one.name }} over {{ one.base_name }}
      </button>
      <p v-if="!found.length" class="muted">
        A see-through equal is the least opaque color that looks the same over a known ground. Choose a ramp, and each
        step gets one.
      </p>
      <v-btn v-if="mayChange" @click="add().catch(complain)">Add a ramp</v-btn>
    </nav>
    <section v-if="view && current" class="scrolls work">
      <header>
        <span>Ramp</span>
        <PickOne label="Ramp" :model-value="view.setting.of" :options="colorKeys(kit.colors)" :disabled="!mayChange" @update:model-value="(of) => put({ of })" />
        <span>over</span>
        <PickOne label="Base" :model-value="view.setting.base" :options="bases" :disabled="!mayChange" @update:model-value="(base) => put({ base })" />
        <span class="gap" />
        <button v-if="mayChange" type="button" class="link" @click="remove().catch(complain)">remove</button>
      </header>
      <ThroughStrips :view="view" />
      <div class="vivid">
        <ChromaPlot :view="view" :fixed="!mayChange" @try-out="tryOut" @settle="settle" />
        <div class="controls">
          <h2>Vividness</h2>
          <p class="muted small">
            100 % is the exact equal. Dark steps that are fully vivid look wrong on other grounds; take chroma from them.
          </p>
          <div v-for="slide in SLIDES" :key="slide.field" class="slid">
            {{ slide.words }}
            <SlideField
              :label="slide.words"
              :model-value="vivid()[slide.field]"
              :min="slide.min"
              :max="100"
              unit="%"
              live
              :disabled="!mayChange"
              @update:model-value="(value) => tryOut({ [slide.field]: value })"
              @settled="(value) => settle({ [slide.field]: value })"
            />
          </div>
          <div class="slid">
            Shape
            <PickOne label="Shape" :model-value="vivid().shape" :options="plain(SHAPES)" :disabled="!mayChange" @update:model-value="(shape) => settle({ shape })" />
          </div>
        </div>
      </div>
    </section>
    <aside v-if="view" class="scrolls" aria-label="Codes">
      <ChoiceRow v-model="kind" label="Codes as" :options="[...KINDS]" />
      <ol>
        <li v-for="step in view.steps" :key="step.step">
          <span class="mono muted">{{ step.step }}</span>
          <button v-hint="`Copy ${step[kind]}`" type="button" class="link mono" @click="copy(step[kind])">{{ step[kind] }}</button>
          <span class="small muted">{{ step.exact ? 'exact' : 'calmer' }}</span>
        </li>
      </ol>
      <p class="muted small">
        Alpha is the least at which the step can be reached. As #RRGGBBAA it is one of 256 levels; a channel may then be
        off by one.
      </p>
    </aside>
  </div>
</template>

<style scoped>
.through {
  display: flex;
  flex: 1;
  min-height: 0;
  margin-top: 10px;
  border-top: 1px solid var(--hair);
}
nav {
  display: grid;
  gap: 8px;
  align-content: start;
  justify-items: start;
  width: 190px;
  padding: 12px 16px;
}
.setting {
  display: grid;
  gap: 3px;
  width: 100%;
  padding: 6px 8px;
  border: 1px solid var(--rule);
  background: var(--field);
  text-align: left;
  cursor: pointer;
}
.setting.on {
  outline: 2px solid var(--ink);
}
.chips {
  display: flex;
}
.chips i {
  flex: 1;
  height: 12px;
}
.work {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 14px;
  align-content: start;
  flex: 1;
  min-width: 0;
  padding: 12px 16px;
}
header .field {
  flex: 0 1 160px;
}
header {
  display: flex;
  gap: 8px;
  align-items: center;
}
.gap {
  flex: 1;
}
.vivid {
  display: flex;
  flex-wrap: wrap;
  gap: 12px 20px;
}
.controls {
  display: grid;
  gap: 7px;
  align-content: start;
  width: 260px;
}
.slid {
  display: grid;
  gap: 2px;
}
aside {
  display: grid;
  gap: 10px;
  align-content: start;
  width: 280px;
  padding: 12px 16px;
  border-left: 1px solid var(--rule);
  background: var(--panel);
}
ol {
  display: grid;
  gap: 4px;
}
li {
  display: grid;
  grid-template-columns: 30px 1fr auto;
  gap: 6px;
  align-items: baseline;
}
li .link {
  text-align: left;
}
</style>
