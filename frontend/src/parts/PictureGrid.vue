<script setup lang="ts">
import SteadyImage from './SteadyImage.vue'

/** Files as their readers see them, each with its name. */
defineProps<{ files: { key: string | number; name: string; src: string }[] }>()
</script>

<template>
  <ul class="pictures">
    <li v-for="file in files" :key="file.key">
      <SteadyImage :src="file.src" alt="" />
      <span v-hint="file.name" class="small">{{ file.name.split('/').at(-1) }}</span>
    </li>
  </ul>
</template>

<style scoped>
.pictures {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(104px, 1fr));
  gap: 10px;
  width: 100%;
}
li {
  display: grid;
  gap: 3px;
  min-width: 0;
  content-visibility: auto;
  contain-intrinsic-size: auto 124px;
}
li :deep(img) {
  width: 100%;
  aspect-ratio: 1;
  padding: 8px;
  border: 1px solid var(--rule);
  background: #fff;
  object-fit: contain;
}
li > span {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
