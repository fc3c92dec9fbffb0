<script setup lang="ts">
import { useElementSize, useVirtualList } from '@vueuse/core'
import { computed, useTemplateRef, watch } from 'vue'

import type { AssetView, StandingView } from '@/api/client'
import type { Trial } from '@/api/queries'
import AssetTile, { type Compare, type Laid } from './AssetTile.vue'

/** The files of a set as tiles in rows; of a large set only the rows around what is in view are there. */
const props = defineProps<{
  assets: AssetView[]
  of: string
  spot: string | undefined
  compare: Compare
  ground: string
  divider: number
  side: number
  high: number
  standing: Map<string, StandingView>
  trial?: Trial
  laid?: Laid
}>()
defineEmits<{ open: [id: string] }>()

const GAP = 6
/** Beside the picture: its margin, the line with the name, the borders. */
const AROUND = 16 + 24 + 2
const OVERSCAN = 4
const BAR = 10

// Within the margins, and beside the bar that scrolls.
const frame = useTemplateRef('frame')
const { width } = useElementSize(frame)
const across = computed(() => (props.compare === 'beside' ? props.side * 2 + 30 : props.side + 26))
const rows = computed(() => {
  const columns = Math.max(Math.floor((width.value - BAR + GAP) / (across.value + GAP)), 1)
  const made: AssetView[][] = []
  for (let at = 0; at < props.assets.length; at += columns) made.push(props.assets.slice(at, at + columns))
  return { columns, made }
})
const { list, containerProps, wrapperProps, scrollTo } = useVirtualList(
  computed(() => rows.value.made),
  { itemHeight: () => props.high + AROUND + GAP, overscan: OVERSCAN },
)
watch(
  () => props.of,
  () => scrollTo(0),
)
</script>

<template>
  <div ref="frame" class="frame">
    <div v-bind="containerProps" class="scrolls">
      <div v-bind="wrapperProps" :style="{ '--side': `${side}px`, '--high': `${high}px`, '--divider': `${divider}%` }">
        <div v-for="row in list" :key="row.index" class="row" :style="{ gridTemplateColumns: `repeat(${rows.columns}, minmax(0, 1fr))` }">
          <AssetTile
            v-for="asset in row.data"
            :key="asset.id"
            :asset="asset"
            :spot="spot"
            :compare="compare"
            :ground="ground"
            :size="side"
            :of="of"
            :standing="trial ? undefined : standing.get(asset.id)"
            :trial="trial"
            :laid="laid"
            @open="$emit('open', asset.id)"
          />
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
.row {
  display: grid;
  gap: 6px;
  padding-bottom: 6px;
}
</style>
