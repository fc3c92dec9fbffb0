<script setup lang="ts">
import SwatchBox from './SwatchBox.vue'

/** That a box of one color stands round what a picture shows, with what frees it of that in one press. */
defineProps<{ box: string; name: string }>()
const emit = defineEmits<{ free: [inside: boolean] }>()
</script>

<template>
  <p class="small box">
    <strong>A box of <SwatchBox :css="box" :size="14" /> <span class="mono">{{ box }}</span> stands round it.</strong>
    <v-btn :aria-label="`Free ${name} of its box`" @click="emit('free', false)">Free it of the box</v-btn>
    <v-btn
      v-hint="'Also where letters enclose the box color, as in an O'"
      :aria-label="`Free ${name} of its box, inside of letters too`"
      @click="emit('free', true)"
    >
      also inside
    </v-btn>
  </p>
</template>

<style scoped>
.box {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 8px;
  align-items: center;
}
</style>
