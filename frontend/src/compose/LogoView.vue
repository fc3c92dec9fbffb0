<script setup lang="ts">
import { computed, ref } from 'vue'

import type { KitView } from '@/api/client'
import { useAccept } from '@/api/formats'
import { useLogo, useProving, useType } from '@/api/proving'
import { complain } from '@/frame/notices'
import { useMe } from '@/frame/session'
import SavedField from '@/parts/SavedField.vue'

const accept = useAccept('logo')

const props = defineProps<{ kit: KitView }>()
const { data: logo } = useLogo(() => props.kit)
const { data: type } = useType(() => props.kit)
const { bringLogo, removeLogo, logo: change, type: setType } = useProving(() => props.kit.id)
const { mayChange } = useMe()

type Ground = 'light' | 'dark'
const GROUNDS: { ground: Ground; field: 'on_light' | 'on_dark'; paper: string }[] = [
  { ground: 'light', field: 'on_light', paper: '#ffffff' },
  { ground: 'dark', field: 'on_dark', paper: '#1a1a1a' },
]
const pictureOf = (key: string) => `/api/kits/${props.kit.id}/logo/${key}/picture`

const picker = ref<HTMLInputElement>()
const wanted = ref<Ground>('light')
function pick(ground: Ground): void {
  wanted.value = ground
  picker.value?.click()
}
function bring(event: Event): void {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  if (file) bringLogo.mutateAsync({ ground: wanted.value, file }).catch(complain)
  input.value = ''
}

const SHAPES = ['rectangle', 'rounded', 'pill', 'circle'] as const
type Backing = NonNullable<NonNullable<typeof logo.value>['backing']>
const backing = computed(() => logo.value?.backing ?? null)
function back(update: Partial<Backing>): void {
  const first = props.kit.colors.find((color) => color.role === 'background') ?? props.kit.colors[0]!
  const now = backing.value ?? { shape: 'rounded' as const, color: `${first.key}.base`, padding: 25 }
  change.mutateAsync({ backing: { ...now, ...update } }).catch(complain)
}
const radius = computed(() => ({ rectangle: '0', rounded: '12%', pill: '999px', circle: '50%' })[backing.value?.shape ?? 'rectangle'])
const HIGH = 44
const space = computed(() => `${((logo.value?.clear_space ?? 0) / 100) * HIGH}px`)
const padding = computed(() => `${((backing.value?.padding ?? 0) / 100) * HIGH}px`)

const FACES = [
  { field: 'headline', label: 'Headlines', sample: 'Out to the islands' },
  { field: 'text', label: 'Text', sample: 'Four crossings a day, from the first ebb. Sound before every turn.' },
] as const
function face(field: 'headline' | 'text', name: string): void {
  setType
    .mutateAsync({ headline: type.value?.headline?.wanted ?? '', text: type.value?.text?.wanted ?? '', [field]: name })
    .catch(complain)
}
/** The shipped faces by the names the browser knows them under. */
const family = (shown: string) => `'${shown} Variable', sans-serif`
</script>

<template>
  <div v-if="logo && type" class="logo-view scrolls">
    <section>
      <h1>Logo</h1>
      <div class="files">
        <figure v-for="one in GROUNDS" :key="one.ground">
          <div class="paper layout" :style="{ background: one.paper }">
            <img v-if="logo[one.field]" :src="pictureOf(logo[one.field]!.key)" :alt="`Logo for ${one.ground} ground`" />
          </div>
          <figcaption>
            for {{ one.ground }} ground<template v-if="logo[one.field]">: {{ logo[one.field]!.name }}</template>
            <template v-if="mayChange">
              <button type="button" class="link" @click="pick(one.ground)">{{ logo[one.field] ? 'replace' : 'bring an SVG or PNG' }}</button>
              <button v-if="logo[one.field]" type="button" class="link" @click="removeLogo.mutateAsync(one.ground).catch(complain)">remove</button>
            </template>
          </figcaption>
        </figure>
        <input ref="picker" type="file" :accept="accept" hidden data-testid="logo-file" @change="bring" />
        <div class="settings">
          <label>
            Clear space
            <input class="field mono" type="number" min="0" max="300" step="5" :value="logo.clear_space" :disabled="!mayChange" @change="change.mutateAsync({ clear_space: Number(($event.target as HTMLInputElement).value) }).catch(complain)" />
            % of its height
          </label>
          <label class="tick">
            <input type="checkbox" :checked="!!backing" :disabled="!mayChange" @change="backing ? change.mutateAsync({ no_backing: true }).catch(complain) : back({})" />
            On a backing
          </label>
          <template v-if="backing">
            <label>
              Shape
              <select class="field" :value="backing.shape" :disabled="!mayChange" @change="back({ shape: ($event.target as HTMLSelectElement).value as Backing['shape'] })">
                <option v-for="shape in SHAPES" :key="shape" :value="shape">{{ shape }}</option>
              </select>
            </label>
            <label>
              Color
              <select class="field" :value="backing.color" :disabled="!mayChange" @change="back({ color: ($event.target as HTMLSelectElement).value })">
                <optgroup v-for="color in kit.colors" :key="color.key" :label="color.name">
                  <option :value="`${color.key}.base`">{{ color.name }}</option>
                  <option v-for="step in color.steps.filter((one) => !one.base)" :key="step.step" :value="`${color.key}.${step.step}`">{{ color.name }} {{ step.step }}</option>
                </optgroup>
              </select>
            </label>
            <label>
              Padding
              <input class="field mono" type="number" min="0" max="200" step="5" :value="backing.padding" :disabled="!mayChange" @change="back({ padding: Number(($event.target as HTMLInputElement).value) })" />
              % of its height
            </label>
          </template>
        </div>
      </div>
      <template v-if="logo.grounds.length">
        <h2>On every ground of the kit</h2>
        <ul class="grounds">
          <li v-for="one in logo.grounds" :key="one.name">
            <div class="ground layout" :style="{ background: one.ground }">
              <span class="clear" :style="{ padding: space }">
                <span class="back" :style="backing ? { background: one.behind, borderRadius: radius, padding } : {}">
                  <img :src="pictureOf(one.picture)" :alt="`The logo on ${one.name}`" :height="HIGH" />
                </span>
              </span>
            </div>
            <p class="small">
              <strong>{{ one.name }}</strong> <span class="mono">{{ one.ratio }}</span>
              {{ one.enough ? 'stands out' : 'does not stand out: needs 3, a variant or a backing' }}
            </p>
          </li>
        </ul>
      </template>
    </section>
    <section>
      <h2>Typefaces</h2>
      <div v-for="one in FACES" :key="one.field" class="face">
        <label>
          {{ one.label }}
          <SavedField :value="type[one.field]?.wanted ?? ''" :label="`Typeface for ${one.label.toLowerCase()}`" :longest="80" :disabled="!mayChange" @save="face(one.field, $event)" />
        </label>
        <p v-if="type[one.field]" :class="one.field" :style="{ fontFamily: family(type[one.field]!.shown) }">{{ one.sample }}</p>
        <p v-if="type[one.field] && !type[one.field]!.same" class="muted small">
          {{ type[one.field]!.wanted }} is not here; shown in {{ type[one.field]!.shown }}: {{ type[one.field]!.why }}.
        </p>
      </div>
      <p class="muted small">By name, as it is installed where the kit is used. Shipped here: {{ type.shipped.join(', ') }}.</p>
    </section>
  </div>
</template>

<style scoped>
.logo-view {
  display: grid;
  gap: 22px;
  align-content: start;
  flex: 1;
  padding: 14px 16px;
}
section {
  display: grid;
  gap: 10px;
}
.files {
  display: flex;
  gap: 20px;
}
.paper {
  display: grid;
  place-items: center;
  width: 210px;
  height: 110px;
  border: 1px solid var(--rule);
}
.paper img {
  max-width: 170px;
  max-height: 80px;
}
figcaption {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 10px;
  width: 210px;
  padding-top: 4px;
  font-size: 12px;
}
.settings {
  display: grid;
  gap: 7px;
  align-content: start;
}
.settings label {
  display: flex;
  gap: 8px;
  align-items: center;
}
.settings .mono {
  width: 66px;
}
.grounds {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(210px, 1fr));
  gap: 14px;
}
.ground {
  display: grid;
  place-items: center;
  height: 140px;
  overflow: hidden;
}
.clear {
  border: 1px dashed rgb(128 128 128 / 60%);
}
.back,
.clear {
  display: inline-grid;
}
.face {
  display: grid;
  gap: 5px;
}
.face label {
  display: grid;
  grid-template-columns: 90px 260px;
  align-items: center;
}
.headline {
  font-size: 30px;
  line-height: 1.15;
}
.text {
  font-size: 16px;
}
</style>
