<script setup lang="ts">
import { useElementSize, useVirtualList } from '@vueuse/core'
import { computed, useTemplateRef, watch } from 'vue'

import type { Files, Trial } from '@/api/queries'
import AssetTile, { type Compare, type Laid } from './AssetTile.vue'

/** The files of a set as tiles in rows; of a large set only the rows around what is in view are there. */
const props = defineProps<{
  files: Files
  spot: string | undefined
  compare: Compare
  ground: string
  divider: number
  side: number
  high: number
  trial?: Trial
  laid?: Laid
}>()
const emit = defineEmits<{ open: [place: number] }>()
/** The places of the first and the last file that are there. */
const seen = defineModel<[number, number]>('seen', { required: true })

const GAP = 6
/** Beside the picture: its margin, the line with the name, the borders. */
const AROUND = 16 + 24 + 2
const OVERSCAN = 4
const BAR = 10

// Within the margins, and beside the bar that scrolls.
const frame = useTemplateRef('frame')
const { width } = useElementSize(frame)
const across = computed(() => (props.compare === 'beside' ? props.side * 2 + 30 : props.side + 26))
const columns = computed(() => Math.max(Math.floor((width.value - BAR + GAP) / (across.value + GAP)), 1))
const rows = computed(() => Array.from({ length: Math.ceil(props.files.total / columns.value) }, (_, row) => row * columns.value))
const { list, containerProps, wrapperProps, scrollTo } = useVirtualList(rows, {
  itemHeight: () => props.high + AROUND + GAP,
  overscan: OVERSCAN,
})
/** The files of a row: nothing in the place of those that have not come. */
const tiles = (first: number) =>
  Array.from({ length: Math.min(columns.value, props.files.total - first) }, (_, at) => ({ place: first + at, asset: props.files.at(first + at) }))
watch(
  () => props.files.of,
  () => scrollTo(0),
)
watch([list, columns], ([now]) => {
  const [first, last] = [now[0]?.data ?? 0, Math.min((now.at(-1)?.data ?? 0) + columns.value, props.files.total) - 1]
  if (first !== seen.value[0] || last !== seen.value[1]) seen.value = [first, Math.max(first, last)]
})
</script>

<template>
  <div ref="frame" class="frame">
    <div v-bind="containerProps" class="scrolls">
      <div v-bind="wrapperProps" :style="{ '--side': `${side}px`, '--high': `${high}px`, '--divider': `${divider}%` }">
        <div v-for="row in list" :key="row.index" class="row" :style="{ gridTemplateColumns: `repeat(${columns}, minmax(0, 1fr))` }">
          <template v-for="{ place, asset } in tiles(row.data)" :key="asset?.id ?? place">
            <AssetTile
              v-if="asset"
              :asset="asset"
              :spot="spot"
              :compare="compare"
              :ground="ground"
              :size="side"
              :of="files.of"
              :trial="trial"
              :laid="laid"
              @open="emit('open', place)"
            />
            <span v-else class="coming" />
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
.row {
  display: grid;
  gap: 6px;
  padding-bottom: 6px;
}
</style>
