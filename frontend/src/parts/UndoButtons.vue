<script setup lang="ts">
defineProps<{ history: { undo: string | null; redo: string | null } }>()
defineEmits<{ undo: []; redo: [] }>()
</script>

<template>
  <v-btn :disabled="!history.undo" :title="history.undo ?? ''" @click="$emit('undo')">Undo</v-btn>
  <v-btn :disabled="!history.redo" :title="history.redo ?? ''" @click="$emit('redo')">Redo</v-btn>
</template>
