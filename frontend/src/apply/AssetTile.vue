<script setup lang="ts">
import { watchDebounced } from '@vueuse/core'
import { computed, onBeforeUnmount, ref, watch, type CSSProperties } from 'vue'

import type { AssetView } from '@/api/client'
import { masksUrl, MOST_MASKS, pictureUrl, pixelsFor, type Trial } from '@/api/files'
import MotionPlayer from './MotionPlayer.vue'
import SteadyImage from '@/parts/SteadyImage.vue'

export type Compare = 'inset' | 'beside' | 'divider' | 'before'

/** A color laid where a paint stands, from the choice of it until the pictures made with it have come. */
export interface Laid {
  paint: string
  css: string
}

const props = defineProps<{
  asset: AssetView
  spot: string | undefined
  compare: Compare
  ground: string
  size: number
  of: string
  trial?: Trial
  laid?: Laid
  /** Whether it is in view and stays: pictures are only fetched then, so a changed target repaints what is seen first. */
  near: boolean
}>()
defineEmits<{ open: [] }>()

const holds = computed(() => !props.spot || props.spot in props.asset.paints)
const pixels = computed(() => pixelsFor(props.size))
/** Where a paint stands is shown at once: its mask, one of a strip that came with the tile, over the picture that is there. */
const keys = computed(() => Object.keys(props.asset.paints).sort())
const masks = computed(() => masksUrl(props.asset, pixels.value, props.of))
const lit = computed(() => maskOf(props.spot))
function maskOf(paint: string | undefined): CSSProperties | undefined {
  const at = paint && props.compare !== 'before' ? keys.value.indexOf(paint) : -1
  const count = Math.min(keys.value.length, MOST_MASKS)
  if (at < 0 || at >= count) return undefined
  return {
    maskImage: `url("${masks.value}")`,
    maskSize: `100% ${count * 100}%`,
    maskPosition: `0 ${count > 1 ? (at / (count - 1)) * 100 : 0}%`,
  }
}
const hovered = ref(false)
const playing = computed(() => props.asset.can.includes('animated') && hovered.value && !props.spot && props.compare !== 'before')
/** What a file is beside being one of the set: a word, and what it means. */
const said = computed(() => {
  const words: [string, string][] = []
  if (props.asset.left_out) words.push(['left out', 'is not handed over'])
  if (props.asset.kept) words.push(['as it came', 'keeps all its colors'])
  else if (props.asset.exceptions) words.push(['own', 'some of its colors go elsewhere than in the other files'])
  if (props.asset.traits.odd) words.push(['unlike', 'is drawn unlike the rest of the set'])
  return words
})
const before = computed(() => pictureUrl(props.asset, { size: pixels.value, side: 'before' }))
const drawn = ref(props.near)
watch(
  () => props.near,
  () => (drawn.value = true),
)
/** Of a file with more paints than there are masks, a picture in which the paint stands out is asked for. */
const after = computed(() => {
  const spot = holds.value && !lit.value ? props.spot : undefined
  return pictureUrl(props.asset, { size: pixels.value, of: props.of, trial: props.trial, spot })
})
/** The strip of masks that the browser has. */
const ready = ref<string>()
function fetchMasks(): void {
  const src = masks.value
  if (gone || !props.near || !keys.value.length || ready.value === src) return
  const strip = new Image()
  strip.onload = () => (ready.value = src)
  strip.src = src
}
// Behind the pictures, so that they come first, and not for tiles that only pass.
watchDebounced([() => props.near, masks], fetchMasks, { debounce: 400, immediate: true })
let gone = false
onBeforeUnmount(() => (gone = true))
/** The picture that is shown, and the color laid on it: until what was chosen is kept, and the next picture is there. */
const arrived = ref<string>()
const cover = ref<Laid>()
function lay(): void {
  const { laid, asset } = props
  if (laid && ready.value === masks.value && !asset.kept && !asset.exceptions) cover.value = laid
  else if (!laid && arrived.value === after.value) cover.value = undefined
}
watch(() => props.laid, lay)
const covered = computed(() => {
  const mask = maskOf(cover.value?.paint)
  return mask && { ...mask, background: cover.value!.css }
})
function come(src: string): void {
  arrived.value = src
  lay()
}
const contrast = computed(() => (props.trial ? null : props.asset.contrast))
const short = computed(() => props.asset.title || props.asset.name.split('/').at(-1)!)
const hint = computed(() => [props.asset.name, props.asset.preview].filter(Boolean).join(': '))
</script>

<template>
  <button
    type="button"
    class="tile"
    :class="[`as-${compare}`, { faded: !holds, out: asset.left_out }]"
    :aria-label="`${asset.name}: look closer`"
    @click="$emit('open')"
    @mouseenter="hovered = true"
    @mouseleave="hovered = false"
    @focus="hovered = true"
    @blur="hovered = false"
  >
    <span class="pictures" :style="{ background: ground }">
      <template v-if="drawn">
        <span v-if="compare === 'beside'" class="half"><SteadyImage :src="before" alt="" /></span>
        <span class="main" :class="{ half: compare === 'beside' }">
          <MotionPlayer v-if="playing" :src="`/api/assets/${asset.id}/motion.json?of=${of}&fingerprint=${asset.fingerprint}`" :label="asset.name" />
          <SteadyImage v-else :class="{ dim: lit }" :src="compare === 'before' ? before : after" alt="" @shown="come" @failed="cover = undefined" />
          <span v-if="lit" class="lit"><img :src="after" alt="" :style="lit" draggable="false" /></span>
          <span v-if="covered && !playing" class="laid"><img :src="arrived" alt="" :style="covered" draggable="false" /></span>
        </span>
        <span v-if="compare === 'divider'" class="cover" :style="{ background: ground }">
          <span class="main"><SteadyImage :src="before" alt="" /></span>
        </span>
        <span v-if="compare === 'inset'" class="corner"><SteadyImage :src="before" alt="" /></span>
      </template>
    </span>
    <span v-hint="hint" class="name">
      <span v-for="[word, means] in said" :key="word" v-hint="`${asset.name}: ${means}`" class="said">{{ word }}</span>
      <span class="short">{{ short }}</span>
      <span
        v-if="contrast"
        v-hint="`Half of its outline has a contrast of ${contrast.ratio} to this ground${contrast.stands ? '' : ': less than 3'}`"
        class="ratio"
        :class="{ weak: !contrast.stands }"
        >{{ contrast.ratio }}</span
      >
    </span>
  </button>
</template>

<style scoped>
.tile {
  display: flex;
  flex-direction: column;
  padding: 0;
  border: 1px solid var(--rule);
  background: var(--panel);
  cursor: zoom-in;
  /* No clips and no transforms here or below: with hundreds of tiles they are what a frame is spent on. */
  contain: layout style;
  min-width: 0;
}
.tile:hover {
  border-color: var(--ink);
}
.pictures {
  position: relative;
  display: flex;
  align-items: center;
  justify-content: center;
  gap: 6px;
  height: calc(var(--high) + 16px);
}
.main,
.half {
  display: flex;
  align-items: center;
  justify-content: center;
  width: var(--side);
  height: var(--high);
}
.main {
  position: relative;
}
.dim {
  opacity: 0.2;
  filter: grayscale(1);
}
.lit,
.laid {
  position: absolute;
  inset: 0;
  display: flex;
  align-items: center;
  justify-content: center;
}
.lit {
  /* An edge that shows on any ground, light or dark. */
  filter: drop-shadow(0 0 0.8px #000) drop-shadow(0 0 0.8px #fff);
}
.lit img,
.laid img {
  max-width: 100%;
  max-height: 100%;
}
.laid img {
  /* Only its size is wanted: the picture is out of sight, its ground is the color. */
  object-position: -9999px;
}
.as-inset .main {
  left: 8px;
  top: 5px;
}
.corner {
  position: absolute;
  top: 3px;
  left: 3px;
  display: flex;
  align-items: center;
  justify-content: center;
  width: 28px;
  height: 28px;
  padding: 2px;
  border: 1px solid #9a9a9a;
  background: #fff;
}
/* It is said beside it already. */
.corner :deep(.failed) {
  display: none;
}
.cover {
  position: absolute;
  inset: 0;
  display: flex;
  align-items: center;
  justify-content: center;
  clip-path: inset(0 calc(100% - var(--divider, 50%)) 0 0);
}
.as-divider .pictures::after {
  content: '';
  position: absolute;
  inset: 0 auto 0 var(--divider, 50%);
  border-left: 1px solid #777;
}
.out .name {
  text-decoration: line-through;
}
.said {
  flex: none;
  align-self: start;
  padding: 0 3px;
  border: 1px solid var(--rule);
  font-size: 10px;
  line-height: 15px;
}
.faded .pictures > * {
  opacity: 0.16;
}
.name {
  display: flex;
  gap: 4px;
  justify-content: center;
  height: 24px;
  padding: 2px 4px 0;
  border-top: 1px solid var(--hair);
  font-size: 12px;
}
.short {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.ratio {
  color: var(--muted);
  font-size: 11px;
}
.ratio.weak {
  color: var(--ink);
  font-weight: 700;
  text-decoration: underline dotted;
}
</style>
