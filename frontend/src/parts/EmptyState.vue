<script setup lang="ts">
defineProps<{ title: string }>()
</script>

<template>
  <section class="empty">
    <h2>{{ title }}</h2>
    <p class="muted"><slot /></p>
    <div class="actions"><slot name="actions" /></div>
  </section>
</template>

<style scoped>
.empty {
  display: grid;
  gap: 8px;
  align-content: safe center;
  justify-items: start;
  max-width: 520px;
  margin: 48px auto;
  padding: 24px 28px;
  border: 1px solid var(--rule);
  border-left: 4px solid var(--ink);
  background: var(--panel);
}
h2 {
  font-size: 18px;
}
.actions {
  display: flex;
  gap: 8px;
  margin-top: 6px;
}
</style>
