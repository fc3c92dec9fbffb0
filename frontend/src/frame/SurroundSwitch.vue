<script setup lang="ts">
import { SURROUNDS, useSurround } from './surround'

const chosen = useSurround()
</script>

<template>
  <div class="switch" role="radiogroup" aria-label="Surround">
    <span class="muted">Surround</span>
    <label v-for="option in SURROUNDS" :key="option.name" :class="[option.name, { on: chosen === option.name }]">
      <input v-model="chosen" type="radio" name="surround" :value="option.name" :aria-label="option.label" />
    </label>
  </div>
</template>

<style scoped>
.switch {
  display: flex;
  align-items: center;
}
.muted {
  margin-right: 10px;
}
label {
  width: 26px;
  height: 24px;
  border: 1px solid var(--ink);
  margin-left: -1px;
  cursor: pointer;
  position: relative;
}
label.on::after {
  content: '';
  position: absolute;
  inset: 4px;
  border: 2px solid #000;
}
.paper {
  background: #f4f4f4;
}
.mid {
  background: #8e8e8e;
}
.dark {
  background: #151515;
}
label.dark.on::after {
  border-color: #fff;
}
label:focus-within {
  outline: 2px solid var(--ink);
  outline-offset: 2px;
}
input {
  position: absolute;
  inset: 0;
  opacity: 0;
  cursor: pointer;
}
</style>
