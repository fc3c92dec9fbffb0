<script setup lang="ts">
/** Some files by their names, each pressed to be seen, and how many more there are. */
defineProps<{ files: readonly string[]; of: number }>()
defineEmits<{ see: [file: string] }>()
</script>

<template>
  <p class="small muted">
    <template v-for="(file, at) in files" :key="file"
      ><template v-if="at">, </template
      ><button type="button" class="link" @click="$emit('see', file)">{{ file }}</button></template
    ><template v-if="of > files.length"> and {{ of - files.length }} more</template>
  </p>
</template>
