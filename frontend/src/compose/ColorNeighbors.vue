<script setup lang="ts">
import { ref, watch } from 'vue'

import type { ColorView } from '@/api/client'
import VariationRows from '@/parts/VariationRows.vue'

const props = defineProps<{ color: ColorView }>()
const emit = defineEmits<{ replace: [hex: string]; add: [hex: string] }>()

const chosen = ref<string>()
watch(
  () => props.color.hex,
  () => (chosen.value = undefined),
)
</script>

<template>
  <section aria-label="Nearby">
    <h2>Nearby</h2>
    <VariationRows v-model="chosen" :hex="color.hex" />
    <div v-if="chosen" class="taking">
      <span class="mono">{{ chosen }}</span>
      <v-btn @click="emit('add', chosen)">Take as new</v-btn>
      <v-btn @click="emit('replace', chosen)">Try as base</v-btn>
    </div>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 6px;
}
.taking {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  align-items: center;
}
.taking .mono {
  width: 100%;
}
</style>
