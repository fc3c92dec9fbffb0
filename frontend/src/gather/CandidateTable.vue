<script lang="ts">
import type { Candidate } from '@/api/client'

/** A candidate with what was decided about it. */
export type Pick = Candidate & { ticked: boolean }
</script>

<script setup lang="ts">
import { computed } from 'vue'

import PennantShape from '@/parts/PennantShape.vue'
import { ROLE_NAMES } from '@/parts/roles'

const picks = defineModel<Pick[]>({ required: true })
const all = computed({
  get: () => picks.value.every((pick) => pick.ticked),
  set: (ticked: boolean) => picks.value.forEach((pick) => (pick.ticked = ticked)),
})
// Long lists stay quick to draw: the rest can be narrowed down in the text itself.
const MOST_SHOWN = 400
const shown = computed(() => picks.value.slice(0, MOST_SHOWN))
</script>

<template>
  <div class="scrolls">
    <table class="listing">
      <thead>
        <tr>
          <th><input v-model="all" type="checkbox" aria-label="All colors" /></th>
          <th>color</th>
          <th>name</th>
          <th>role</th>
          <th>where it stood</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="pick in shown" :key="pick.hex" :class="{ off: !pick.ticked }">
          <td><input v-model="pick.ticked" type="checkbox" :aria-label="`Take ${pick.name}, ${pick.hex}`" /></td>
          <td class="color">
            <PennantShape :role="pick.role" :hex="pick.hex" :width="38" />
            <span class="mono">{{ pick.hex }}</span>
          </td>
          <td>
            <input v-model="pick.name" class="text" maxlength="80" :aria-label="`Name of ${pick.hex}`" />
            <span v-if="pick.known_as" class="known">
              {{ pick.difference === 'same' ? 'in the kit already:' : `near (difference ${pick.difference}):` }}
              {{ pick.known_as }}
            </span>
            <span v-if="!pick.certain" class="known">may be a number or a word, not a color</span>
          </td>
          <td>
            <select v-model="pick.role" :aria-label="`Role of ${pick.name}`">
              <option v-for="role in ROLE_NAMES" :key="role" :value="role">{{ role }}</option>
            </select>
          </td>
          <td class="place">
            <span class="mono">{{ pick.line }}:{{ pick.column }}</span>
            <span v-if="pick.places > 1" class="muted">, {{ pick.places }} times</span>
            <span class="context mono muted" :title="pick.context">{{ pick.context }}</span>
          </td>
        </tr>
      </tbody>
    </table>
    <p v-if="picks.length > MOST_SHOWN" class="more muted">
      {{ picks.length - MOST_SHOWN }} more are recognised and not shown here.
    </p>
  </div>
</template>

<style scoped>
.scrolls {
  flex: 1;
  padding: 0 16px;
}
input[type='checkbox'] {
  width: 16px;
  height: 16px;
  accent-color: var(--strong);
}
.off .color svg {
  opacity: 0.4;
}
.color {
  white-space: nowrap;
}
.color svg {
  vertical-align: middle;
  margin-right: 8px;
}
.text,
select {
  height: 28px;
  padding: 0 6px;
  border: 1px solid var(--rule);
  background: var(--field);
  color: var(--ink);
  font: inherit;
}
.text {
  width: 100%;
  min-width: 130px;
}
.known {
  display: block;
  font-size: 12px;
  font-weight: 600;
}
.place {
  max-width: 240px;
}
.context {
  display: block;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.more {
  padding: 12px 0;
}
</style>
