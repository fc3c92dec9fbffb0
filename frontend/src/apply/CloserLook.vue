<script setup lang="ts">
import { computed } from 'vue'

import type { AssetView, SetView } from '@/api/client'
import { pictureUrl } from '@/api/queries'
import SteadyImage from '@/parts/SteadyImage.vue'
import SwatchBox from '@/parts/SwatchBox.vue'

const props = defineProps<{ set: SetView; asset: AssetView; ground: string }>()
const open = defineModel<boolean>({ required: true })
const spot = defineModel<string | undefined>('spot')
const emit = defineEmits<{ turn: [by: number]; remove: [] }>()

const paints = computed(() => props.set.paints.filter((paint) => paint.key in props.asset.paints))
const after = computed(() => pictureUrl(props.asset, { size: 560, spot: spot.value }))

function keys(event: KeyboardEvent): void {
  if (event.key === 'ArrowRight') emit('turn', 1)
  if (event.key === 'ArrowLeft') emit('turn', -1)
}
</script>

<template>
  <v-dialog v-model="open" max-width="980" :aria-label="asset.name" @keydown="keys">
    <section class="sheet look">
      <header>
        <h2>{{ asset.name }}</h2>
        <span class="gap" />
        <v-btn aria-label="The file before" @click="emit('turn', -1)">previous</v-btn>
        <v-btn aria-label="The file behind" @click="emit('turn', 1)">next</v-btn>
        <v-btn class="strong" @click="open = false">Close</v-btn>
      </header>
      <div class="sides">
        <figure>
          <span class="picture" :style="{ background: ground }">
            <SteadyImage :src="pictureUrl(asset, { size: 560, side: 'before' })" :alt="`${asset.name} before`" />
          </span>
          <figcaption class="muted">before</figcaption>
        </figure>
        <figure>
          <span class="picture" :style="{ background: ground }">
            <SteadyImage :src="after" :alt="`${asset.name} after`" />
          </span>
          <figcaption class="muted">after</figcaption>
        </figure>
      </div>
      <ul @mouseleave="spot = undefined">
        <li v-for="paint in paints" :key="paint.key" @mouseenter="spot = paint.key">
          <button type="button" :aria-pressed="spot === paint.key" @focus="spot = paint.key" @blur="spot = undefined">
            <SwatchBox :css="paint.css" :size="20" /> → <SwatchBox :css="paint.target_css" :size="20" />
            <span class="mono">{{ paint.key }}</span> {{ paint.target_name }}
            <span class="muted">
              {{ asset.paints[paint.key] }} {{ asset.paints[paint.key] === 1 ? 'place' : 'places' }}
            </span>
          </button>
        </li>
      </ul>
      <p v-for="remark in asset.remarks" :key="remark" class="remark">{{ remark }}</p>
      <footer>
        <v-btn :href="`/api/assets/${asset.id}/file`">Download recolored</v-btn>
        <v-btn :href="`/api/assets/${asset.id}/file?side=before`">Download original</v-btn>
        <span class="gap" />
        <v-btn @click="emit('remove')">Take out of the set</v-btn>
      </footer>
    </section>
  </v-dialog>
</template>

<style scoped>
.look {
  display: grid;
  gap: 12px;
  padding: 16px;
  max-height: 92vh;
  overflow: auto;
}
header,
footer {
  display: flex;
  gap: 8px;
  align-items: center;
}
.gap {
  flex: 1;
}
.sides {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 12px;
}
.picture {
  display: flex;
  align-items: center;
  justify-content: center;
  height: 320px;
  padding: 16px;
  border: 1px solid var(--hair);
}
ul {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 2px 16px;
}
li button {
  display: flex;
  gap: 6px;
  align-items: center;
  width: 100%;
  padding: 2px 4px;
  border: 0;
  background: none;
  text-align: left;
}
li button:hover {
  background: var(--field);
}
.remark {
  padding-left: 10px;
  border-left: 2px solid var(--ink);
}
</style>
