<script setup lang="ts">
import type { KitView } from '@/api/client'
import ChoiceRow from '@/parts/ChoiceRow.vue'
import SlideField from '@/parts/SlideField.vue'
import GroundChoice from './GroundChoice.vue'

/** How files are seen beside what they were, and on which ground. */
defineProps<{ kit: KitView }>()
const ground = defineModel<string>('ground', { required: true })
const compare = defineModel<'inset' | 'beside' | 'divider'>('compare', { required: true })
const divider = defineModel<number>('divider', { required: true })
/** While held, files are seen as they came. */
const holding = defineModel<boolean>('holding', { required: true })
</script>

<template>
  <header>
    <GroundChoice v-model="ground" :kit="kit" />
    <ChoiceRow
      v-model="compare"
      label="Compare"
      :options="[
        { value: 'inset', label: 'before as inset' },
        { value: 'beside', label: 'side by side' },
        { value: 'divider', label: 'divider' },
      ]"
    />
    <SlideField
      v-if="compare === 'divider'"
      v-model="divider"
      class="slide"
      label="Divider between before and after"
      :min="0"
      :max="100"
      live
      bare
    />
    <v-btn
      v-hint="'Hold the button, or the key b'"
      :aria-pressed="holding"
      @pointerdown="holding = true"
      @pointerup="holding = false"
      @pointerleave="holding = false"
    >
      Hold for before
    </v-btn>
    <span class="gap" />
    <slot />
  </header>
</template>

<style scoped>
header {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 10px;
  align-items: center;
  padding: 10px 16px 8px;
}
.slide {
  width: 110px;
}
.gap {
  flex: 1;
}
</style>
