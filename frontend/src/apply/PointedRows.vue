<script setup lang="ts">
/** What was pointed at in a picture, one of it at hand: pressed again, none is. */
defineProps<{ label: string; count: number; number: number | undefined }>()
const emit = defineEmits<{ take: [at: number | undefined] }>()
</script>

<template>
  <ul v-if="count" class="list" :aria-label="label">
    <li v-for="(_, at) in count" :key="at">
      <button type="button" class="row" :aria-pressed="at === number" @click="emit('take', at === number ? undefined : at)">
        <slot :at="at" />
      </button>
    </li>
  </ul>
</template>

<style scoped>
.list {
  display: grid;
  gap: 2px;
  padding: 0;
  list-style: none;
}
.row {
  display: flex;
  gap: 8px;
  align-items: center;
  width: 100%;
  padding: 4px 6px;
  border: 1px solid var(--hair);
  text-align: left;
  cursor: pointer;
}
.row[aria-pressed='true'] {
  outline: 2px solid var(--ink);
  outline-offset: -1px;
}
</style>
