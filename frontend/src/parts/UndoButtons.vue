<script setup lang="ts">
defineProps<{ history: { undo: string | null; redo: string | null } }>()
defineEmits<{ undo: []; redo: [] }>()
</script>

<template>
  <v-btn v-hint="history.undo ?? ''" :disabled="!history.undo" @click="$emit('undo')">Undo</v-btn>
  <v-btn v-hint="history.redo ?? ''" :disabled="!history.redo" @click="$emit('redo')">Redo</v-btn>
</template>
