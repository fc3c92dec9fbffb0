<script setup lang="ts">
withDefaults(defineProps<{ css: string; size?: number; label?: string }>(), { size: 28 })
</script>

<template>
  <span
    class="swatch"
    :role="label ? 'img' : undefined"
    :aria-label="label"
    :style="{ '--swatch': css, width: `${size}px`, height: `${size}px` }"
  />
</template>

<style scoped>
.swatch {
  display: inline-block;
  flex: none;
  border: 1px solid var(--rule);
  /* Under a see-through paint a grid of greys shows. */
  background:
    linear-gradient(var(--swatch), var(--swatch)),
    repeating-conic-gradient(#bbb 0 25%, #eee 0 50%) 0 0 / 10px 10px;
}
</style>
