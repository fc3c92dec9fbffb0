<script setup lang="ts">
import { computed, ref, watch } from 'vue'

import type { AssetView, FileView, KitView, SetView } from '@/api/client'
import { pictureUrl, playedUrl } from '@/api/files'
import { useFrames } from '@/api/pointing'
import ChoiceRow from '@/parts/ChoiceRow.vue'
import SlideField from '@/parts/SlideField.vue'
import SteadyImage from '@/parts/SteadyImage.vue'
import type { How } from './looking'
import MotionPlayer from './MotionPlayer.vue'
import PaintFrames from './PaintFrames.vue'

/** The pictures of a file at large, as it came and as it becomes: in one of the ways in which it can be looked at, as
    one of its looks, and of one of its pages. What is to stand between the pictures and these choices is laid there. */
const props = defineProps<{
  kit: KitView
  set: SetView
  asset: AssetView
  file: FileView | undefined
  how: How
  page: number | undefined
  ground: string
  spot: string | undefined
}>()
const emit = defineEmits<{ press: [event: MouseEvent, look: string | undefined] }>()

const laidOut = computed(() => props.asset.can.includes('laid out'))
const slides = computed(() => props.asset.can.includes('slides'))
const animated = computed(() => props.asset.can.includes('animated'))
const moving = computed(() => animated.value && !props.spot)

/** The way in which the file is seen, where there are several. */
const look = ref<string>()
const looks = computed(() => props.file?.looks ?? [])
watch(() => props.asset.id, () => (look.value = undefined))
const seen = computed(() => look.value ?? looks.value[0]?.key)
const inLook = computed(() => (looks.value.length > 1 && seen.value !== looks.value[0]!.key ? seen.value : undefined))
/** The looks of a mail that are told from each other by how wide they are: all but the first stand beside it. */
const narrow = computed(() => looks.value.find((one) => one.width && looks.value[0]!.width && one.width < looks.value[0]!.width))
const wide = computed(() => looks.value.filter((one) => one.key !== narrow.value?.key))
const inWide = computed(() => wide.value.find((one) => one.key === seen.value)?.key ?? wide.value[0]?.key)

const large = computed(() => (slides.value ? 900 : 560))
/** A picture that moves is played, for those who did not ask for less of that, and as long as no paint is pointed at. */
const still = window.matchMedia('(prefers-reduced-motion: reduce)').matches
const played = (side: 'before' | 'after') =>
  props.asset.plays && !still && !props.spot && props.how === 'beside' ? playedUrl(props.asset, side, props.set.id) : undefined
const before = computed(
  () =>
    played('before') ??
    pictureUrl(props.asset, { size: large.value, side: 'before', look: inLook.value, page: props.page }),
)
const after = computed(
  () =>
    played('after') ??
    pictureUrl(props.asset, { size: large.value, of: props.set.id, spot: props.spot, look: inLook.value, page: props.page }),
)
const side = ref<'after' | 'before'>('after')
const device = (key: string | undefined, width: number) =>
  pictureUrl(props.asset, {
    size: width,
    look: key,
    page: props.page,
    ...(side.value === 'before' ? { side: 'before' } : { of: props.set.id, spot: props.spot }),
  })

/** Where the paint that is pointed at stands on the slide that is large. */
const framesOn = useFrames(() => props.asset, () => props.spot)
const frames = computed(() => (slides.value ? framesOn(props.page ?? 0) : undefined))
/** Notes are on pages that stand upright. */
const upright = computed(() => slides.value && props.file?.pages[props.page ?? 0]?.kind === 'notes')

const MOTIONS = ['arrive', 'breathe', 'turn', 'ring'] as const
const stirred = ref<(typeof MOTIONS)[number]>('arrive')
const motion = (side: string) => `/api/assets/${props.asset.id}/motion.json?side=${side}&of=${props.set.id}&fingerprint=${props.asset.fingerprint}`
const divider = ref(50)
const grounds = computed(() => [
  { name: 'white', css: '#ffffff' },
  ...props.kit.colors.filter((color) => color.role === 'background').map((color) => ({ name: color.name, css: color.hex })),
  { name: 'near-black', css: '#161616' },
])
const SIZES = [16, 24, 48, 128]
</script>

<template>
  <div v-if="how === 'devices'" class="devices">
    <figure>
      <div class="page" tabindex="0" :aria-label="`${asset.name}, wide`" @click="emit('press', $event, inWide)">
        <SteadyImage :src="device(inWide, 900)" :alt="`${asset.name} ${side}`" />
      </div>
      <figcaption class="muted">{{ wide.find((one) => one.key === inWide)?.words ?? 'wide' }}; press a spot to see which paint it is</figcaption>
    </figure>
    <figure v-if="narrow">
      <div class="page" tabindex="0" :aria-label="`${asset.name}, ${narrow.words}`">
        <SteadyImage :src="device(narrow.key, 500)" :alt="`${asset.name} ${side} ${narrow.words}`" />
      </div>
      <figcaption class="muted">{{ narrow.words }}</figcaption>
    </figure>
  </div>
  <div v-else-if="how === 'beside' || (how === 'motion' && !asset.can.includes('motion'))" class="sides">
    <figure>
      <div :class="[laidOut ? 'page' : 'picture', { deck: slides, upright }]" :style="laidOut ? {} : { background: ground }">
        <MotionPlayer v-if="moving" :src="motion('before')" :label="`${asset.name} before`" timeline />
        <SteadyImage v-else :src="before" :alt="`${asset.name} before`" />
        <PaintFrames v-if="slides" :on="frames" :paint="spot" />
      </div>
      <figcaption class="muted">before</figcaption>
    </figure>
    <figure>
      <div :class="[laidOut ? 'page' : 'picture', { deck: slides, upright }]" :style="laidOut ? {} : { background: ground }" @click="emit('press', $event, inLook)">
        <MotionPlayer v-if="moving" :src="motion('after')" :label="`${asset.name} after`" timeline />
        <SteadyImage v-else :src="after" :alt="`${asset.name} after`" />
        <PaintFrames v-if="slides" :on="frames" :paint="spot" />
      </div>
      <figcaption class="muted">after{{ animated ? '' : '; press a spot to see which paint it is' }}</figcaption>
    </figure>
  </div>
  <div v-else-if="how === 'divider'" class="over" :class="{ wide: slides }" :style="{ background: ground, '--divider': `${divider}%` }">
    <SteadyImage :src="after" :alt="`${asset.name} after`" />
    <span class="cover" :style="{ background: ground }"><SteadyImage :src="before" :alt="`${asset.name} before`" /></span>
    <SlideField v-model="divider" class="bar" label="Divider between before and after" :min="0" :max="100" live bare />
  </div>
  <div v-else-if="how === 'motion'" class="sides">
    <figure>
      <div class="picture" :style="{ background: ground }">
        <MotionPlayer :src="`${motion('after')}&motion=${stirred}`" :label="`${asset.name}, set in motion: ${stirred}`" timeline />
      </div>
      <figcaption class="stirred">
        <ChoiceRow v-model="stirred" label="Motion" :options="MOTIONS.map((one) => ({ value: one, label: one }))" />
        <v-btn :href="`${motion('after')}&motion=${stirred}`" :download="`${asset.name.split('/').at(-1)!.replace(/\.\w+$/, '')}-${stirred}.json`">
          Download as Lottie
        </v-btn>
      </figcaption>
    </figure>
  </div>
  <div v-else class="sizes">
    <div v-for="on in grounds" :key="on.name" v-hint="`on ${on.name}`" class="on" :style="{ background: on.css }">
      <span v-for="size in SIZES" :key="size" :style="{ width: `${size}px`, height: `${size}px` }">
        <SteadyImage :src="pictureUrl(asset, { size: size * 2, of: set.id })" :alt="`${size} pixels on ${on.name}`" />
      </span>
    </div>
  </div>
  <slot />
  <div class="ways">
    <ChoiceRow
      v-if="(how === 'devices' ? wide : looks).length > 1"
      :model-value="(how === 'devices' ? inWide : seen)!"
      label="Seen"
      :options="(how === 'devices' ? wide : looks).map((one) => ({ value: one.key, label: one.words }))"
      @update:model-value="look = $event"
    />
    <ChoiceRow
      v-if="how === 'devices'"
      v-model="side"
      label="Which of both"
      :options="[{ value: 'after', label: 'as it becomes' }, { value: 'before', label: 'as it came' }]"
    />
  </div>
</template>

<style scoped>
.sides {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 12px;
}
.picture,
.over {
  position: relative;
  display: flex;
  align-items: center;
  justify-content: center;
  height: 360px;
  padding: 16px;
  border: 1px solid var(--hair);
}
.ways {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.devices {
  display: grid;
  grid-template-columns: minmax(0, 9fr) minmax(0, 4fr);
  gap: 12px;
}
.page {
  height: 44vh;
  overflow: hidden auto;
  border: 1px solid var(--hair);
  background: var(--ground);
}
.page :deep(img) {
  display: block;
  width: 100%;
  height: auto;
  max-width: none;
  max-height: none;
}
.deck {
  height: auto;
  padding: 0;
  aspect-ratio: 16 / 9;
}
.deck.upright {
  aspect-ratio: 1;
}
.deck :deep(img) {
  width: 100%;
  height: 100%;
  object-fit: contain;
}
.cover {
  position: absolute;
  inset: 0;
  display: flex;
  align-items: center;
  justify-content: center;
  padding: 16px;
  clip-path: inset(0 calc(100% - var(--divider)) 0 0);
}
.over .bar {
  position: absolute;
  inset: auto 0 4px 0;
  width: 100%;
  margin: 0;
}
.over.wide {
  height: 400px;
}
.sizes {
  display: grid;
  gap: 8px;
}
.on {
  display: flex;
  gap: 24px;
  align-items: center;
  padding: 8px 16px;
  border: 1px solid var(--hair);
}
.on span {
  display: grid;
  place-items: center;
}
.stirred {
  display: flex;
  gap: 12px;
  align-items: center;
  justify-content: center;
  padding-top: 8px;
}
</style>
