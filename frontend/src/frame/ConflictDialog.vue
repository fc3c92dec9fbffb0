<script setup lang="ts">
import { computed } from 'vue'

import { client, taken, type KitView } from '@/api/client'
import { followKit, useKitChanges } from '@/api/kits'
import SwatchBox from '@/parts/SwatchBox.vue'
import { complain, conflict, say } from './notices'

/** Two people changed the same place: one says what is to become of both. */
const props = defineProps<{ kitId: string }>()
const { add } = useKitChanges(() => props.kitId)

const clashes = computed(() => conflict.value?.clashes ?? [])
const isCode = (value: unknown): value is string => typeof value === 'string' && /^#[0-9a-f]{6}$/.test(value)
/** The bases one meant to set: they can come in beside the others as colors of their own. */
const bases = computed(() =>
  clashes.value.flatMap((clash) =>
    clash.place.startsWith('Base of ') && isCode(clash.mine)
      ? [{ name: clash.place.slice('Base of '.length), code: clash.mine }]
      : [],
  ),
)

function words(value: unknown): string {
  if (value === null || value === undefined || value === '') return 'nothing'
  if (typeof value !== 'object') return String(value)
  const named = value as Record<string, unknown>
  return [named['status'], named['use'], named['note']].filter(Boolean).join(', ') || JSON.stringify(value).slice(0, 120)
}

async function now(): Promise<KitView> {
  const kit = await taken(client.GET('/api/kits/{kit_id}', { params: { path: { kit_id: props.kitId } } }))
  followKit(kit)
  return kit
}

async function theirs(): Promise<void> {
  await now()
  conflict.value = null
  say('Theirs stays; yours was not saved.')
}

async function mine(): Promise<void> {
  const again = conflict.value?.again
  const kit = await now()
  conflict.value = null
  if (!again) return
  const response = await again(kit.record)
  if (!response.ok) say('It changed once more meanwhile. Look again.')
  await now()
}

async function both(): Promise<void> {
  const found = bases.value
  const kit = await now()
  conflict.value = null
  await add.mutateAsync(
    found.map(({ name, code }) => ({
      name: `${name}, other`,
      role: kit.colors.find((color) => color.name === name)?.role ?? 'accent',
      code,
    })),
  )
  say('Both are in the kit.')
}
</script>

<template>
  <v-dialog :model-value="!!conflict" attach width="560" @update:model-value="conflict = null">
    <section v-if="conflict" class="sheet" aria-labelledby="conflict-title">
      <h2 id="conflict-title">Changed by two people</h2>
      <p>{{ conflict.message }}</p>
      <table class="listing">
        <thead>
          <tr>
            <th scope="col">what</th>
            <th scope="col">theirs, saved</th>
            <th scope="col">yours</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="clash in clashes" :key="clash.place">
            <th scope="row">{{ clash.place }}</th>
            <td v-for="(value, at) in [clash.theirs, clash.mine]" :key="at">
              <span class="value"><SwatchBox v-if="isCode(value)" :css="value" :size="20" /> {{ words(value) }}</span>
            </td>
          </tr>
        </tbody>
      </table>
      <div class="actions">
        <v-btn class="strong" @click="theirs().catch(complain)">Keep theirs</v-btn>
        <v-btn @click="mine().catch(complain)">Use mine</v-btn>
        <v-btn v-if="bases.length" @click="both().catch(complain)">Take both, mine as a new color</v-btn>
      </div>
    </section>
  </v-dialog>
</template>

<style scoped>
.sheet {
  display: grid;
  gap: 12px;
  padding: 20px 24px;
}
.value {
  display: flex;
  gap: 8px;
  align-items: center;
}
.actions {
  display: flex;
  gap: 8px;
}
</style>
