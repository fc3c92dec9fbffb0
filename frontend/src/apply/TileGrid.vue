<script setup lang="ts">
import { useVirtualizer } from '@tanstack/vue-virtual'
import { useElementSize } from '@vueuse/core'
import { computed, useTemplateRef, watch } from 'vue'

import type { Files, Reach, Trial } from '@/api/files'
import SlideStrip from './SlideStrip.vue'
import AssetTile, { type Compare, type Laid } from './AssetTile.vue'
import { useFlight } from './flight'

/** The files of a set as tiles in rows; of a large set only the rows around what is in view are there. */
const props = defineProps<{
  files: Files
  /** The paint that is pointed at, with those of other files that are in a row with it. */
  spots: readonly string[]
  compare: Compare
  ground: string
  divider: number
  side: number
  high: number
  trial?: Trial
  laid?: Laid
  /** Whether the files are decks: each is a row of its own, with all its slides. */
  decks?: boolean
}>()
const emit = defineEmits<{
  open: [place: number, slide?: number]
  reach: [Reach]
}>()

const GAP = 6
/** Beside the picture: its margin, the line with the name, the borders. */
const AROUND = 16 + 24 + 2
const OVERSCAN = 2
const BAR = 10

// Within the margins, and beside the bar that scrolls.
const frame = useTemplateRef('frame')
const { width } = useElementSize(frame)
const across = computed(() => (props.compare === 'beside' ? props.side * 2 + 30 : props.side + 26))
const columns = computed(() => (props.decks ? 1 : Math.max(Math.floor((width.value - BAR + GAP) / (across.value + GAP)), 1)))
const box = useTemplateRef('box')
const flying = useFlight(box)
const virtual = useVirtualizer(
  computed(() => ({
    count: Math.ceil(props.files.total / columns.value),
    getScrollElement: () => box.value,
    estimateSize: () => props.high + AROUND + GAP,
    overscan: OVERSCAN,
  })),
)
// Rows are as high as the pictures are to be.
watch(
  () => props.high,
  () => virtual.value.measure(),
)
// What stands still while one scrolls within a row is told apart, so that nothing is looked at anew for it.
const rows = computed(() => virtual.value.getVirtualItems())
const total = computed(() => virtual.value.getTotalSize())
const first = computed(() => virtual.value.range?.startIndex ?? 0)
const last = computed(() => virtual.value.range?.endIndex ?? Infinity)
/** The files of a row: nothing in the place of those that have not come. */
const tiles = (first: number) =>
  Array.from({ length: Math.min(columns.value, props.files.total - first) }, (_, at) => ({ place: first + at, asset: props.files.at(first + at) }))
watch(
  () => props.files.of,
  () => virtual.value.scrollToOffset(0),
)
/** The places of the files in some rows. */
function placesOf(from: number, to: number): [number, number] {
  const [first, behind] = [from * columns.value, (to + 1) * columns.value]
  return [first, Math.max(Math.min(behind, props.files.total) - 1, first)]
}
watch(
  [rows, first, last, columns],
  ([now]) => emit('reach', { there: placesOf(now[0]?.index ?? 0, now.at(-1)?.index ?? 0), seen: placesOf(first.value, last.value) }),
  { immediate: true },
)
</script>

<template>
  <div ref="frame" class="frame">
    <div ref="box" class="scrolls">
      <div
        class="rows"
        :style="{
          height: `${total}px`,
          '--side': `${side}px`,
          '--high': `${high}px`,
          '--divider': `${divider}%`,
          '--columns': columns,
        }"
      >
        <div v-for="row in rows" :key="row.index" class="row" :class="{ deck: decks }" :style="{ top: `${row.start}px` }">
          <template v-for="{ place, asset } in tiles(row.index * columns)" :key="asset?.id ?? place">
            <AssetTile
              v-if="asset"
              :asset="asset"
              :spot="spots.find((one) => one in asset.paints) ?? spots[0]"
              :compare="compare"
              :ground="ground"
              :size="side"
              :of="files.of"
              :trial="trial"
              :laid="laid"
              :near="!flying && row.index >= first && row.index <= last"
              @open="emit('open', place)"
            />
            <span v-else class="coming" />
            <SlideStrip
              v-if="decks && asset && !trial"
              class="strip scrolls"
              :asset="asset"
              :of="files.of"
              :size="160"
              :spot="spots.find((one) => one in asset.paints)"
              @see="(slide) => emit('open', place, slide)"
            />
          </template>
        </div>
      </div>
    </div>
  </div>
</template>

<style scoped>
.frame {
  display: flex;
  flex: 1;
  flex-direction: column;
  min-height: 0;
  margin: 0 16px;
}
.scrolls {
  flex: 1;
  min-height: 0;
}
.coming {
  height: calc(var(--high) + 42px);
  border: 1px solid var(--hair);
}
.rows {
  position: relative;
}
.row {
  position: absolute;
  left: 0;
  right: 0;
  height: calc(var(--high) + 42px);
  /* A row that comes moves none of the others. */
  contain: layout size style;
  display: grid;
  grid-template-columns: repeat(var(--columns), minmax(0, 1fr));
  gap: 6px;
}
.row.deck {
  grid-template-columns: minmax(0, calc(var(--side) + 40px)) minmax(0, 1fr);
}
.strip {
  max-height: calc(var(--high) + 42px);
}
</style>
