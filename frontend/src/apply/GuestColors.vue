<script setup lang="ts">
import { computed, ref } from 'vue'

import type { SetView } from '@/api/client'
import { useSetChanges } from '@/api/sets'
import { useSource, useSources } from '@/api/sources'
import { complain } from '@/frame/notices'
import PickOne from '@/parts/PickOne.vue'
import SwatchBox from '@/parts/SwatchBox.vue'

/** Colors that this set has beside the kit, for a campaign say: by code, or from what was gathered. */
const props = defineProps<{ set: SetView }>()
const changes = useSetChanges(() => props.set.id)
const { data: sources } = useSources(() => props.set.kit_id)

const from = ref('')
const { data: source } = useSource(() => from.value || undefined, 0)
const candidates = computed(() => (source.value?.candidates ?? []).filter((one) => !props.set.guests.some((guest) => guest.hex === one.hex)))
const code = ref('')
const name = ref('')

function add(hex: string, title: string): void {
  changes.invite
    .mutateAsync({ colors: [{ hex, name: title }] })
    .then(() => (code.value = name.value = ''), complain)
}
</script>

<template>
  <section class="guests" aria-label="Guest colors">
    <p class="small">
      <strong>Guest colors</strong>
      <span class="muted"> of this set only, beside the kit</span>
    </p>
    <ul v-if="set.guests.length">
      <li v-for="guest in set.guests" :key="guest.key">
        <SwatchBox :css="guest.hex" :size="20" />
        <span class="name">{{ guest.name }}</span>
        <span class="mono">{{ guest.hex }}</span>
        <button type="button" class="link small" :aria-label="`Send ${guest.name} away`" @click="changes.sendAway.mutateAsync(guest.key).catch(complain)">
          send away
        </button>
      </li>
    </ul>
    <form class="row" @submit.prevent="code.trim() && add(code.trim(), name.trim())">
      <v-text-field v-model="code" class="field mono" aria-label="Code of a guest color" placeholder="#code" maxlength="40" />
      <v-text-field v-model="name" class="field" aria-label="Name of the guest color" placeholder="name, if any" maxlength="60" />
      <v-btn type="submit" :disabled="!code.trim()">Invite</v-btn>
    </form>
    <PickOne
      v-if="sources?.length"
      v-model="from"
      label="Guest colors from a source"
      :options="[{ value: '', title: 'from what was gathered…' }, ...sources.map((one) => ({ value: one.id, title: one.name }))]"
    />
    <div v-if="from && source" class="found">
      <button
        v-for="one in candidates"
        :key="one.hex"
        v-hint="`${one.name} ${one.hex}${one.known_as ? `, which is ${one.known_as}` : ''}`"
        type="button"
        :style="{ background: one.hex, color: one.ink }"
        :aria-label="`Invite ${one.name} ${one.hex}`"
        :disabled="!!one.known_as && !one.difference"
        @click="add(one.hex, one.name)"
      />
    </div>
  </section>
</template>

<style scoped>
.guests {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 6px;
  padding-top: 6px;
  border-top: 1px solid var(--hair);
}
li {
  display: grid;
  grid-template-columns: 20px 1fr auto auto;
  gap: 8px;
  align-items: center;
  padding: 2px 0;
}
.name {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.row {
  display: grid;
  grid-template-columns: 84px minmax(0, 1fr) auto;
  gap: 6px;
}
.found {
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
}
.found button {
  width: 28px;
  height: 28px;
  border: 1px solid var(--rule);
  cursor: copy;
}
</style>
