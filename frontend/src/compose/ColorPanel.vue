<script setup lang="ts">
import { ref, watch } from 'vue'

import type { ColorView, Role } from '@/api/client'
import { copy } from '@/frame/notices'
import PennantShape from '@/parts/PennantShape.vue'
import { ROLE_NAMES } from '@/parts/roles'
import ColorNeighbors from './ColorNeighbors.vue'

const props = defineProps<{ kitId: string; color: ColorView }>()
const emit = defineEmits<{ change: [change: { name?: string; role?: Role; code?: string }]; add: [hex: string]; remove: [] }>()

const name = ref('')
const code = ref('')
watch(
  () => props.color,
  (color) => {
    name.value = color.name
    code.value = color.hex
  },
  { immediate: true },
)

function rename(): void {
  if (name.value.trim() && name.value !== props.color.name) emit('change', { name: name.value })
  else name.value = props.color.name
}

function replaceBase(): void {
  if (code.value.trim() && code.value !== props.color.hex) emit('change', { code: code.value })
}
</script>

<template>
  <aside class="panel scrolls" :aria-label="color.name">
    <header>
      <PennantShape :role="color.role" :hex="color.hex" :width="88" />
      <div>
        <h2>{{ color.name }}</h2>
        <p class="muted">{{ color.description }}, base at step {{ color.base_step }}</p>
      </div>
    </header>

    <v-text-field v-model="name" label="Name" maxlength="80" @change="rename" @keydown.enter="rename" />
    <label class="role">
      <span class="muted">Role</span>
      <select aria-label="Role" :value="color.role" @change="emit('change', { role: ($event.target as HTMLSelectElement).value as Role })">
        <option v-for="role in ROLE_NAMES" :key="role" :value="role">{{ role }}</option>
      </select>
    </label>
    <form class="base" @submit.prevent="replaceBase">
      <v-text-field v-model="code" label="Base, any color code" spellcheck="false" />
      <v-btn type="submit" :disabled="code === color.hex">Replace base</v-btn>
    </form>
    <p class="muted small">Everything made with this color follows: its ramp, its pairs, every set.</p>

    <h2>Codes</h2>
    <dl class="mono">
      <template v-for="[kind, value] in [['hex', color.hex], ['rgb', color.rgb], ['oklch', color.oklch]]" :key="kind">
        <dt class="muted">{{ kind }}</dt>
        <dd>
          <button type="button" :aria-label="`Copy ${kind} ${value}`" @click="copy(value!)">{{ value }}</button>
        </dd>
      </template>
    </dl>

    <ColorNeighbors
      :kit-id="kitId"
      :color="color"
      @replace="emit('change', { code: $event })"
      @add="emit('add', $event)"
    />

    <template v-if="color.notes.length">
      <h2>Mind</h2>
      <ul class="notes">
        <li v-for="line in color.notes" :key="line">{{ line }}</li>
      </ul>
    </template>

    <v-btn class="remove" @click="emit('remove')">Remove from the kit</v-btn>
  </aside>
</template>

<style scoped>
.panel {
  display: flex;
  flex-direction: column;
  gap: 10px;
  flex: none;
  width: 270px;
  padding: 16px;
  border-left: 1px solid var(--rule);
  background: var(--panel);
}
header {
  display: flex;
  gap: 12px;
  margin-bottom: 6px;
}
header svg {
  flex: none;
}
.panel > * {
  flex: none;
}
.panel > h2 {
  margin-top: 8px;
}
.role {
  display: grid;
  gap: 2px;
  font-size: 12px;
}
select {
  height: 34px;
  padding: 0 8px;
  border: 1px solid var(--rule);
  background: var(--field);
  color: var(--ink);
  font: 14px 'Commissioner Variable', sans-serif;
}
.base {
  display: grid;
  gap: 6px;
  justify-items: start;
}
.base :deep(.v-input) {
  width: 100%;
}
.small {
  font-size: 12px;
}
dl {
  display: grid;
  grid-template-columns: 54px 1fr;
  gap: 3px 0;
}
dd button {
  padding: 0;
  border: 0;
  background: none;
  cursor: copy;
}
dd button:hover {
  text-decoration: underline;
}
.notes li {
  padding-left: 10px;
  border-left: 2px solid var(--ink);
  font-size: 12px;
}
.notes li + li {
  margin-top: 6px;
}
.remove {
  align-self: start;
  margin-top: 8px;
}
</style>
