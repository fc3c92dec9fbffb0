<script setup lang="ts">
import { computed, ref } from 'vue'

import type { KitView } from '@/api/client'
import { useProportions } from '@/api/composing'
import { colorKeys } from '@/parts/picking'
import PickOne from '@/parts/PickOne.vue'
import SlideField from '@/parts/SlideField.vue'
import LayoutSketch from '@/parts/LayoutSketch.vue'

/** The kit on sample layouts: which color takes which share, normal, inverted, and the wrong way round. */
const props = defineProps<{ kit: KitView }>()
const chosen = ref<{ large?: string; middle?: string; small?: string }>({})
const middle = ref(30)
const small = ref(10)
const large = computed(() => 100 - middle.value - small.value)
const { data: shown, error } = useProportions(
  () => props.kit,
  () => ({ ...chosen.value, shares: [large.value, middle.value, small.value] }),
)
const SLOTS = ['large', 'middle', 'small'] as const
const share = computed(() => ({ large: large.value, middle: middle.value, small: small.value }))
</script>

<template>
  <section class="proportions scrolls" aria-labelledby="proportions-title">
    <header>
      <h1 id="proportions-title">Proportions</h1>
      <div v-for="slot in SLOTS" :key="slot" class="one">
        {{ share[slot] }} %
        <PickOne
          class="color"
          :label="`Color with the ${slot} share`"
          asked="none of the kit"
          :model-value="shown?.[slot] ?? null"
          :options="colorKeys(kit.colors)"
          @update:model-value="(key) => (chosen = { ...chosen, [slot]: key })"
        />
      </div>
      <div class="one">middle <SlideField v-model="middle" label="Middle share in percent" :min="5" :max="60" unit="%" live /></div>
      <div class="one">small <SlideField v-model="small" label="Small share in percent" :min="1" :max="30" unit="%" live /></div>
    </header>
    <p v-if="error" role="alert">{{ error.message }}</p>
    <template v-if="shown">
      <div v-for="look in shown.looks" :key="look.name" class="look">
        <div class="words">
          <h2>{{ look.name }}</h2>
          <p class="muted small">{{ look.words }}</p>
          <ul>
            <li v-for="(slot, at) in look.slots" :key="at" class="small">
              <i :style="{ background: slot.hex }" /> <span class="mono">{{ slot.share }} %</span>
              <span class="muted">text {{ slot.contrast }}</span>
            </li>
          </ul>
        </div>
        <figure v-for="layout in shown.layouts" :key="layout.name" :style="{ flexGrow: 1 / layout.height }">
          <LayoutSketch :layout="layout" :slots="look.slots" :label="`${layout.name}, ${look.name}`" />
          <figcaption class="muted small">{{ layout.name }}</figcaption>
        </figure>
      </div>
    </template>
  </section>
</template>

<style scoped>
.proportions {
  flex: 1;
  padding: 10px 16px 16px;
}
header {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 14px;
  align-items: center;
}
.one {
  display: flex;
  gap: 6px;
  align-items: center;
  font-size: 13px;
}
.color {
  flex: 0 0 140px;
}
.look {
  display: flex;
  gap: 18px;
  align-items: start;
  padding: 10px 0;
  border-top: 1px solid var(--hair);
  margin-top: 10px;
}
.words {
  flex: none;
  width: 132px;
}
.words li {
  display: flex;
  gap: 6px;
  align-items: center;
  margin-top: 4px;
}
.words i {
  width: 20px;
  height: 16px;
  border: 1px solid var(--rule);
}
figure {
  flex-basis: 0;
  max-width: 330px;
}
</style>
