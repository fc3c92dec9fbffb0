<script setup lang="ts">
import { computed } from 'vue'

import type { KitView } from '@/api/client'

const props = defineProps<{ kit: KitView }>()
const model = defineModel<string>({ required: true })

/** Grounds that files of this kit will stand on: white, its backgrounds, its primary color, its darkest text. */
const grounds = computed(() => {
  const roles = ['background', 'primary', 'text dark']
  const found = roles.flatMap((role) => props.kit.colors.filter((color) => color.role === role).slice(0, 2))
  return [{ hex: '#ffffff', name: 'White' }, ...found.map((color) => ({ hex: color.hex, name: color.name }))]
})
</script>

<template>
  <div class="grounds" role="radiogroup" aria-label="Shown on">
    <span class="muted">Shown on</span>
    <label v-for="ground in grounds" :key="ground.hex" v-hint="ground.name" :class="{ on: model === ground.hex }">
      <input v-model="model" type="radio" name="ground" :value="ground.hex" :aria-label="`On ${ground.name}`" />
      <span :style="{ background: ground.hex }" />
    </label>
  </div>
</template>

<style scoped>
.grounds {
  display: flex;
  align-items: center;
}
.muted {
  margin-right: 8px;
}
label {
  position: relative;
  width: 26px;
  height: 26px;
  margin-left: -1px;
  border: 1px solid var(--ink);
  cursor: pointer;
}
label span {
  position: absolute;
  inset: 0;
}
label.on {
  outline: 2px solid var(--ink);
  outline-offset: 1px;
  z-index: 1;
}
label:focus-within {
  outline: 3px double var(--ink);
  outline-offset: 1px;
  z-index: 1;
}
input {
  position: absolute;
  inset: 0;
  z-index: 1;
  opacity: 0;
  cursor: pointer;
}
</style>
