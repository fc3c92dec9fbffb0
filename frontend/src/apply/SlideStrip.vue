<script setup lang="ts">
import { computed } from 'vue'

import type { AssetView } from '@/api/client'
import { useFrames } from '@/api/pointing'
import { pictureUrl } from '@/api/files'
import SteadyImage from '@/parts/SteadyImage.vue'
import PaintFrames from './PaintFrames.vue'

/** All slides of a deck as they become, side by side; one is gone to by a press, and where the paint `spot` stands is
    framed. With `others`, those are shown that
    stand behind the slides: masters and layouts, or notes. */
const props = defineProps<{ asset: AssetView; of: string; size: number; current?: number; others?: { at: number; title: string }[]; spot?: string }>()
const framesOn = useFrames(() => props.asset, () => props.spot)
const shown = computed(
  () =>
    props.others ??
    Array.from({ length: props.asset.slides }, (_, at) => ({ at, title: `Slide ${at + 1} of ${props.asset.title || props.asset.name}` })),
)
const emit = defineEmits<{ see: [slide: number] }>()
</script>

<template>
  <ol class="slides">
    <li v-for="{ at, title } in shown" :key="at">
      <button v-hint="others ? title : undefined" type="button" :aria-current="current === at || undefined" :aria-label="title" @click="emit('see', at)">
        <SteadyImage :src="pictureUrl(asset, { size, of, page: at })" alt="" loading="lazy" />
        <PaintFrames v-if="spot" :on="framesOn(at)" :paint="spot" />
        <span v-if="!others" class="small">{{ at + 1 }}</span>
      </button>
      <slot :at="at" />
    </li>
  </ol>
</template>

<style scoped>
.slides {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(132px, 1fr));
  gap: 6px;
  align-content: start;
}
button {
  position: relative;
  display: block;
  width: 100%;
  padding: 0;
  border: 1px solid var(--rule);
  background: var(--ground);
  line-height: 0;
  cursor: pointer;
}
button :deep(img) {
  width: 100%;
  aspect-ratio: 16 / 9;
  object-fit: contain;
}
button span {
  position: absolute;
  inset: auto 0 0 auto;
  padding: 0 4px;
  background: var(--ground);
  line-height: 1.4;
}
[aria-current='true'] {
  outline: 2px solid var(--ink);
  outline-offset: -1px;
}
</style>
