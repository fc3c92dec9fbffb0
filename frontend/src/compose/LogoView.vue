<script setup lang="ts">
import { computed, ref } from 'vue'

import type { KitView } from '@/api/client'
import { useAccept } from '@/api/formats'
import { useLogo, useProving } from '@/api/proving'
import { complain } from '@/frame/notices'
import CandidatePanel from '@/gather/CandidatePanel.vue'
import { useMe } from '@/frame/session'
import BoxNote from '@/parts/BoxNote.vue'
import NumberField from '@/parts/NumberField.vue'
import { type Option, plain } from '@/parts/picking'
import PickOne from '@/parts/PickOne.vue'
import TickBox from '@/parts/TickBox.vue'

const accept = useAccept('logo')

const props = defineProps<{ kit: KitView }>()
const { data: logo } = useLogo(() => props.kit)
const { bringLogo, freeLogo, removeLogo, logo: change } = useProving(() => props.kit.id)
const { mayChange } = useMe()

type Ground = 'light' | 'dark'
const GROUNDS: { ground: Ground; field: 'on_light' | 'on_dark'; paper: string }[] = [
  { ground: 'light', field: 'on_light', paper: '#ffffff' },
  { ground: 'dark', field: 'on_dark', paper: '#1a1a1a' },
]
const pictureOf = (key: string) => `/api/kits/${props.kit.id}/logo/${key}/picture`

const strange = computed(() => (mayChange.value ? (logo.value?.candidates ?? []).filter((one) => one.difference !== 'same') : []))
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
const steps = computed<Option<string>[]>(() =>
  props.kit.colors.flatMap((color) => [
    { value: `${color.key}.base`, title: color.name, hex: color.hex, group: color.name },
    ...color.steps
      .filter((one) => !one.base)
      .map((step) => ({ value: `${color.key}.${step.step}`, title: `${color.name} ${step.step}`, hex: step.hex, group: color.name })),
  ]),
)
const radius = computed(() => ({ rectangle: '0', rounded: '12%', pill: '999px', circle: '50%' })[backing.value?.shape ?? 'rectangle'])
const HIGH = 44
const space = computed(() => `${((logo.value?.clear_space ?? 0) / 100) * HIGH}px`)
const padding = computed(() => `${((backing.value?.padding ?? 0) / 100) * HIGH}px`)
</script>

<template>
  <div v-if="logo" class="logo-view scrolls">
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
              <button type="button" class="link" @click="pick(one.ground)">{{ logo[one.field] ? 'replace' : 'bring a picture' }}</button>
              <button v-if="logo[one.field]" type="button" class="link" @click="removeLogo.mutateAsync(one.ground).catch(complain)">remove</button>
            </template>
            <BoxNote
              v-if="mayChange && logo[one.field]?.box"
              :box="logo[one.field]!.box!"
              :name="logo[one.field]!.name"
              @free="(inside) => freeLogo.mutateAsync({ ground: one.ground, inside }).catch(complain)"
            />
          </figcaption>
        </figure>
        <input ref="picker" type="file" :accept="accept" hidden data-testid="logo-file" @change="bring" />
        <div class="settings">
          <div class="one">
            Clear space
            <NumberField
              label="Clear space in percent of its height"
              :model-value="logo.clear_space"
              :min="0"
              :max="300"
              :step="5"
              unit="%"
              :disabled="!mayChange"
              @update:model-value="(clear_space) => change.mutateAsync({ clear_space }).catch(complain)"
            />
            of its height
          </div>
          <TickBox :model-value="!!backing" :disabled="!mayChange" @update:model-value="(on) => (on ? back({}) : change.mutateAsync({ no_backing: true }).catch(complain))">
            On a backing
          </TickBox>
          <template v-if="backing">
            <div class="one">
              Shape
              <PickOne label="Shape" :model-value="backing.shape" :options="plain(SHAPES)" :disabled="!mayChange" @update:model-value="(shape) => back({ shape })" />
            </div>
            <div class="one">
              Color
              <PickOne label="Color" :model-value="backing.color" :options="steps" :disabled="!mayChange" @update:model-value="(color) => back({ color })" />
            </div>
            <div class="one">
              Padding
              <NumberField
                label="Padding in percent of its height"
                :model-value="backing.padding"
                :min="0"
                :max="200"
                :step="5"
                unit="%"
                :disabled="!mayChange"
                @update:model-value="(padding) => back({ padding })"
              />
              of its height
            </div>
          </template>
        </div>
      </div>
      <CandidatePanel v-if="strange.length" class="colors" :kit="kit" :found="logo.candidates" verb="in the logo" />
      <template v-if="logo.grounds.length">
        <h2>On every color of the kit</h2>
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
.settings .one {
  display: flex;
  gap: 8px;
  align-items: center;
}
.settings .number {
  width: 76px;
}
.settings .pick {
  flex: 0 0 190px;
}
.grounds {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(210px, 1fr));
  gap: 14px;
}
.colors {
  max-width: 620px;
  max-height: 340px;
  border: 1px solid var(--rule);
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
</style>
