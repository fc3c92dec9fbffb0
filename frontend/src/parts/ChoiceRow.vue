<script setup lang="ts" generic="T extends string">
defineProps<{ label: string; options: { value: T; label: string; count?: number }[] }>()
const model = defineModel<T>({ required: true })
</script>

<template>
  <div class="choices" role="radiogroup" :aria-label="label">
    <label v-for="option in options" :key="option.value" :class="{ on: model === option.value }">
      <input v-model="model" type="radio" :value="option.value" :name="label" />
      {{ option.label }}
      <span v-if="option.count !== undefined" class="mono">{{ option.count }}</span>
    </label>
  </div>
</template>

<style scoped>
.choices {
  display: inline-flex;
  border: 1px solid var(--ink);
}
label {
  display: flex;
  gap: 6px;
  align-items: baseline;
  padding: 4px 10px;
  background: var(--field);
  font-size: 13px;
  cursor: pointer;
}
label + label {
  border-left: 1px solid var(--rule);
}
label.on {
  background: var(--strong);
  color: var(--on-strong);
  font-weight: 600;
}
label:focus-within {
  outline: 2px solid var(--ink);
  outline-offset: 2px;
}
input {
  position: absolute;
  opacity: 0;
  pointer-events: none;
}
</style>
