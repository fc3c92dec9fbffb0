<script setup lang="ts">
import { computed, ref } from 'vue'

import type { ColorView, KitView } from '@/api/client'
import { useComposing } from '@/api/composing'
import { useKitChanges } from '@/api/kits'
import { complain, copy } from '@/frame/notices'
import PennantShape from '@/parts/PennantShape.vue'
import { plain } from '@/parts/picking'
import PickOne from '@/parts/PickOne.vue'
import SavedField from '@/parts/SavedField.vue'
import { LONGEST_NAME } from '@/parts/lengths'
import { ROLE_NAMES } from '@/parts/roles'
import BaseChange from './BaseChange.vue'
import ColorMeaning from './ColorMeaning.vue'
import ColorNeighbors from './ColorNeighbors.vue'
import StepPins from './StepPins.vue'
import TintFields from './TintFields.vue'

/** Everything about one color of the kit. */
const props = defineProps<{ kit: KitView; color: ColorView }>()
const emit = defineEmits<{ add: [hex: string]; choose: [key: string] }>()
const { color: change, remove } = useKitChanges(() => props.kit.id)
const { duplicate, order, tint } = useComposing(() => props.kit.id)

const tried = ref<string>()

type Change = Omit<Parameters<typeof change.mutateAsync>[0], 'key'>
function send(changed: Change): void {
  change.mutateAsync({ key: props.color.key, ...changed }).catch(complain)
}

const at = computed(() => props.kit.colors.findIndex((color) => color.key === props.color.key))
function move(by: number): void {
  // It stays at hand, wherever it goes.
  emit('choose', props.color.key)
  const keys = props.kit.colors.map((color) => color.key)
  const [moved] = keys.splice(at.value, 1)
  keys.splice(at.value + by, 0, moved!)
  order.mutateAsync(keys).catch(complain)
}

function copyColor(): void {
  duplicate.mutateAsync(props.color.key).then((kit) => {
    const behind = kit.colors[at.value + 1]
    if (behind) emit('choose', behind.key)
  }, complain)
}
</script>

<template>
  <aside class="panel scrolls" :aria-label="color.name">
    <header>
      <PennantShape :role="color.role" :hex="color.hex" :width="72" />
      <div>
        <h2>{{ color.name }}</h2>
        <p class="muted small">{{ color.description }}<template v-if="color.family">, {{ color.family }}</template>, base at step {{ color.base_step }}</p>
      </div>
    </header>
    <div class="line">
      <v-btn :disabled="at === 0" :aria-label="`Move ${color.name} up`" @click="move(-1)">↑</v-btn>
      <v-btn :disabled="at === kit.colors.length - 1" :aria-label="`Move ${color.name} down`" @click="move(1)">↓</v-btn>
      <v-btn @click="copyColor">Duplicate</v-btn>
      <v-btn aria-label="Remove from the kit" @click="remove.mutateAsync(color.key).catch(complain)">Remove</v-btn>
    </div>

    <div class="labelled">
      <span class="muted">Name</span>
      <SavedField :value="color.name" label="Name" :longest="LONGEST_NAME" required @save="(name) => send({ name })" />
    </div>
    <div class="labelled">
      <span class="muted">Role</span>
      <PickOne label="Role" :model-value="color.role" :options="plain(ROLE_NAMES)" @update:model-value="(role) => send({ role })" />
    </div>
    <BaseChange :kit="kit" :color="color" :tried="tried" @replace="send({ code: $event })" />

    <dl class="mono">
      <template v-for="(value, kind) in color.notations" :key="kind">
        <dt class="muted">{{ kind }}</dt>
        <dd>
          <button type="button" :aria-label="`Copy ${kind} ${value}`" @click="copy(value)">{{ value }}</button>
        </dd>
      </template>
    </dl>

    <ColorNeighbors :color="color" @replace="tried = $event" @add="emit('add', $event)" />
    <StepPins :color="color" @pin="send({ pin: $event })" />
    <TintFields
      :kit="kit"
      :color="color"
      @strength="send({ strength: $event })"
      @tint="tint.mutateAsync($event).catch(complain)"
    />
    <ColorMeaning :color="color" @note="send({ note: $event })" />

    <template v-if="color.notes.length">
      <h2>To keep in mind</h2>
      <ul class="notes">
        <li v-for="line in color.notes" :key="line">{{ line }}</li>
      </ul>
    </template>
  </aside>
</template>

<style scoped>
.panel {
  display: flex;
  flex-direction: column;
  gap: 10px;
  flex: none;
  width: 282px;
  padding: 14px 16px;
  border-left: 1px solid var(--rule);
  background: var(--panel);
}
header {
  display: flex;
  gap: 12px;
}
header svg {
  flex: none;
}
.panel > * {
  flex: none;
}
.line {
  display: flex;
  gap: 4px;
}
.line .v-btn {
  height: 28px;
  padding: 0 9px;
}
.labelled {
  display: grid;
  gap: 2px;
  font-size: 12px;
}
dl {
  display: grid;
  grid-template-columns: 46px 1fr;
  gap: 3px 0;
}
dd button {
  padding: 0;
  border: 0;
  background: none;
  text-align: left;
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
</style>
