<script setup lang="ts">
import { computed, ref } from 'vue'

import type { KitView } from '@/api/client'
import { useProportions } from '@/api/composing'
import LayoutSketch from './LayoutSketch.vue'

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
      <label v-for="slot in SLOTS" :key="slot">
        {{ share[slot] }} %
        <select
          class="field"
          :aria-label="`Color with the ${slot} share`"
          :value="shown?.[slot]"
          @change="chosen = { ...chosen, [slot]: ($event.target as HTMLSelectElement).value }"
        >
          <option v-if="!shown?.[slot]" value="">none of the kit</option>
          <option v-for="color in kit.colors" :key="color.key" :value="color.key">{{ color.name }}</option>
        </select>
      </label>
      <label>middle <input v-model.number="middle" type="range" min="5" max="60" aria-label="Middle share in percent" /></label>
      <label>small <input v-model.number="small" type="range" min="1" max="30" aria-label="Small share in percent" /></label>
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
label {
  display: flex;
  gap: 6px;
  align-items: center;
  font-size: 13px;
}
input[type='range'] {
  width: 90px;
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
