<script setup lang="ts">
import { computed, useTemplateRef, watch } from 'vue'

import type { PinView, Reach, Spot } from '@/api/client'
import { copy } from '@/frame/notices'
import { plain } from '@/parts/picking'
import PickOne from '@/parts/PickOne.vue'
import { VERDICTS } from '@/parts/verdicts'
import ChoiceRow from '@/parts/ChoiceRow.vue'
import SwatchBox from '@/parts/SwatchBox.vue'

/** The magnifier with its pixel grid, and what the place under it is. */
const props = defineProps<{ spot: Spot | undefined; reach: Reach; pin: PinView | undefined; count: number }>()
const emit = defineEmits<{ reach: [reach: Reach]; renumber: [to: number]; remove: [] }>()

const CELL = 7
const canvas = useTemplateRef('canvas')
const side = computed(() => (props.spot?.around.length ?? 21) * CELL)
const reaches = [
  { value: '1', label: '1 pixel' },
  { value: '5', label: '5 × 5' },
  { value: '15', label: '15 × 15' },
]
const chosenReach = computed({
  get: () => String(props.reach),
  set: (value: string) => emit('reach', Number(value) as Reach),
})

watch([() => props.spot, canvas, () => props.reach], draw, { flush: 'post' })

function draw(): void {
  const context = canvas.value?.getContext('2d')
  const rows = props.spot?.around
  if (!context || !rows) return
  context.clearRect(0, 0, side.value, side.value)
  rows.forEach((row, y) =>
    row.forEach((hex, x) => {
      if (!hex) return
      context.fillStyle = hex
      context.fillRect(x * CELL, y * CELL, CELL - 1, CELL - 1)
    }),
  )
  const from = ((rows.length - props.reach) / 2) * CELL
  for (const [ink, grow] of [['#ffffff', 1], ['#000000', 0]] as const) {
    context.strokeStyle = ink
    context.strokeRect(from - 0.5 - grow, from - 0.5 - grow, props.reach * CELL + 2 * grow, props.reach * CELL + 2 * grow)
  }
}
</script>

<template>
  <section class="loupe" aria-label="Under the magnifier">
    <canvas ref="canvas" :width="side" :height="side" role="img" :aria-label="spot ? `Pixels around ${spot.answer.hex}` : 'Nothing pointed at'" />
    <div v-if="spot" class="words">
      <p class="line">
        <SwatchBox :css="spot.answer.hex" :size="26" />
        <button type="button" class="code mono" :aria-label="`Copy ${spot.answer.hex}`" @click="copy(spot.answer.hex)">{{ spot.answer.hex }}</button>
        <span v-if="spot.alpha" class="muted">{{ spot.alpha }} opaque</span>
        <span class="muted mono">{{ spot.x }}, {{ spot.y }}</span>
      </p>
      <p v-if="spot.answer.nearest" class="line">
        <SwatchBox :css="spot.answer.nearest" :size="26" />
        <span><strong>{{ VERDICTS[spot.answer.verdict] }}</strong>, {{ spot.answer.name }}, difference {{ spot.answer.difference }}</span>
        <v-btn v-if="spot.answer.verdict === 'near'" @click="copy(spot.answer.nearest)">Copy {{ spot.answer.nearest }}</v-btn>
      </p>
      <p v-else class="muted">The kit has no colors yet.</p>
      <div class="line">
        <span class="muted">sample</span>
        <ChoiceRow v-model="chosenReach" label="Sample" :options="reaches" />
        <template v-if="pin">
          <span class="muted">pin</span>
          <PickOne
            class="number"
            label="Number of the pin"
            :model-value="pin.number"
            :options="plain(Array.from({ length: count }, (_, at) => at + 1))"
            @update:model-value="(to) => emit('renumber', to)"
          />
          <v-btn @click="emit('remove')">Remove pin</v-btn>
          <span v-if="!pin.seen" class="mark small">Its place is cut away or covered on the board.</span>
        </template>
        <span v-else class="muted small">Click on the picture to set a pin.</span>
      </div>
    </div>
    <p v-else class="muted words">Point at the picture to see its pixels; click to set a pin.</p>
  </section>
</template>

<style scoped>
.loupe {
  display: flex;
  gap: 14px;
  flex: none;
  padding: 8px 14px;
  border-top: 1px solid var(--rule);
  background: var(--panel);
}
canvas {
  flex: none;
  background: var(--ground);
  border: 1px solid var(--ink);
}
.words {
  display: flex;
  flex-direction: column;
  gap: 8px;
  justify-content: center;
  min-width: 0;
}
.line {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 10px;
  align-items: center;
}
.code {
  padding: 0;
  border: 0;
  background: none;
  font-size: 15px;
  cursor: copy;
}
.number {
  flex: 0 0 66px;
}
</style>
