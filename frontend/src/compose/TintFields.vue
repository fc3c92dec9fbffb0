<script setup lang="ts">
import { computed, ref, watch } from 'vue'

import type { ColorView, KitView } from '@/api/client'
import SlideField from '@/parts/SlideField.vue'

type Shade = NonNullable<ColorView['tint']>['shade']
const SHADES: Shade[] = ['neutral', 'near-black', 'near-white']

/** Quiet colors tinted from this one; or, of a tinted color, how strongly it is. */
const props = defineProps<{ kit: KitView; color: ColorView }>()
const emit = defineEmits<{ strength: [percent: number]; tint: [tint: { of: string; shades: Shade[]; strength: number }] }>()

const shades = ref<Shade[]>([...SHADES])
const strength = ref(50)
watch(() => props.color.tint?.strength, (now) => now !== undefined && (strength.value = now), { immediate: true })
const source = computed(() => props.kit.colors.find((color) => color.key === props.color.tint?.of))
</script>

<template>
  <section aria-label="Tinted">
    <h2>{{ color.tint ? `Tinted from ${source?.name ?? 'another color'}` : 'Neutrals tinted from it' }}</h2>
    <div class="strength">
      <span class="muted">strength</span>
      <SlideField
        v-model="strength"
        label="Strength of the tint"
        :min="0"
        :max="100"
        unit="%"
        @update:model-value="(now) => color.tint && emit('strength', now)"
      />
    </div>
    <p v-if="color.tint" class="muted small">It follows {{ source?.name }}; another base lets it go.</p>
    <template v-else>
      <div class="shades">
        <v-checkbox-btn v-for="shade in SHADES" :key="shade" v-model="shades" inline :value="shade" :label="shade" />
      </div>
      <v-btn :disabled="!shades.length" @click="emit('tint', { of: color.key, shades, strength })">
        Add {{ shades.length }} tinted
      </v-btn>
    </template>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 6px;
  justify-items: start;
}
.strength {
  display: grid;
  grid-template-columns: 54px 1fr;
  gap: 6px;
  align-items: center;
  width: 100%;
  font-size: 12px;
}
.shades {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 12px;
  font-size: 13px;
}
</style>
