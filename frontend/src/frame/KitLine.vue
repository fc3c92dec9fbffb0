<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { computed } from 'vue'

import type { ColorView, KitView } from '@/api/client'
import PennantShape from '@/parts/PennantShape.vue'
import { ROLES } from '@/parts/roles'
import { atHand, DRAGGED_COLOR, guests } from './hand'
import { isTyping } from './history'
import { copy } from './notices'

const props = defineProps<{ kit: KitView | undefined }>()
const own = computed(() => props.kit?.colors ?? [])
const colors = computed(() => [...own.value, ...guests.value])

function pick(color: ColorView): void {
  if (atHand.value) atHand.value.put(color)
  else void copy(color.hex)
}

function drag(event: DragEvent, color: ColorView): void {
  event.dataTransfer?.setData(DRAGGED_COLOR, color.key)
  event.dataTransfer?.setData('text/plain', color.hex)
}

function describePick(color: ColorView, at: number): string {
  const key = at < 9 ? `, key ${at + 1}` : ''
  const does = atHand.value ? `send ${atHand.value.label} here` : `copy ${color.hex}`
  const role = guests.value.includes(color) ? 'guest of this set' : color.role
  return `${color.name}, ${role}: ${does}${key}`
}

useEventListener(window, 'keydown', (event: KeyboardEvent) => {
  if (!atHand.value || isTyping(event) || event.ctrlKey || event.metaKey || event.altKey) return
  const color = /^[1-9]$/.test(event.key) ? colors.value[Number(event.key) - 1] : undefined
  if (color) atHand.value.put(color)
})
</script>

<template>
  <section class="line" aria-label="The kit">
    <ol v-if="colors.length" class="scrolls" :class="{ close: guests.length }">
      <li v-for="(color, at) in colors" :key="color.key" :class="{ guest: at === own.length }">
        <span v-if="at === own.length" class="muted small">guests</span>
        <button
          v-hint="describePick(color, at)"
          type="button"
          class="pennant"
          draggable="true"
          :aria-label="describePick(color, at)"
          @click="pick(color)"
          @dragstart="drag($event, color)"
        >
          <PennantShape :role="color.role" :hex="color.hex" />
        </button>
        <span class="words">
          <span v-hint="color.name" class="name">{{ color.name }}</span>
          <button
            v-hint="`Copy ${color.hex}`"
            type="button"
            class="code mono"
            :aria-label="`Copy the code of ${color.name}, ${color.hex}`"
            @click="copy(color.hex)"
          >
            {{ color.hex }}
          </button>
        </span>
      </li>
    </ol>
    <p v-else-if="kit" class="none muted">No colors yet: paste codes in Gather.</p>
    <v-menu attach location="bottom end" :close-on-content-click="false">
      <template #activator="{ props: open }">
        <button v-bind="open" type="button" class="legend">shapes</button>
      </template>
      <ul class="sheet shapes" aria-label="What the shapes mean">
        <li v-for="entry in ROLES" :key="entry.role">
          <PennantShape :role="entry.role" :width="34" />
          <span
            ><strong>{{ entry.role }}</strong> {{ entry.shape }}</span
          >
        </li>
      </ul>
    </v-menu>
  </section>
</template>

<style scoped>
.line {
  display: flex;
  align-items: start;
  padding: 0 16px;
  height: 50px;
  flex: none;
}
ol {
  display: flex;
  gap: 8px 14px;
  flex: 1;
  min-width: 0;
  height: 50px;
  overflow-y: hidden;
}
li {
  display: flex;
  gap: 6px;
  align-items: start;
  flex: none;
}
ol.close {
  gap: 8px 6px;
}
.close .name {
  max-width: 74px;
}
.guest {
  align-items: start;
  padding-left: 10px;
  border-left: 1px dashed var(--rule);
}
.pennant {
  flex: none;
  padding: 0;
  border: 0;
  background: none;
  height: 37px;
  cursor: grab;
}
.pennant:hover,
.pennant:focus-visible {
  transform: translateY(3px);
}
.words {
  display: flex;
  flex-direction: column;
  line-height: 1.2;
  padding-top: 3px;
}
.name {
  max-width: 92px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.code {
  padding: 0;
  border: 0;
  background: none;
  text-align: left;
  cursor: copy;
}
.code:hover {
  text-decoration: underline;
}
.none {
  padding-top: 8px;
  flex: 1;
}
.legend {
  flex: none;
  margin: 6px 0 0 12px;
  padding: 2px 4px;
  border: 0;
  background: none;
  color: var(--muted);
  font-size: 12px;
  text-decoration: underline;
  cursor: pointer;
}
.shapes {
  display: grid;
  gap: 8px;
  padding: 12px 14px;
}
.shapes li {
  align-items: center;
  gap: 12px;
}
@media (max-width: 1180px) {
  .pennant :deep(svg) {
    width: 40px;
    height: 26px;
  }
  ol {
    gap: 8px 8px;
  }
  .name {
    max-width: 70px;
  }
}
</style>
