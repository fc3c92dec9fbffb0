<script setup lang="ts">
import type { KitView, Only, Order, SetView } from '@/api/client'
import type { Listing, Trial } from '@/api/files'
import { useSetChanges } from '@/api/sets'
import { complain } from '@/frame/notices'
import { worded } from '@/parts/picking'
import PickOne from '@/parts/PickOne.vue'
import ActForMany from './ActForMany.vue'
import { useActs } from './acts'
import { FILTERS, ORDERS } from './filters'
import VariantBar from './VariantBar.vue'

/** Which files of a set are seen, how, and what is done with all that are. */
const { set, which, found } = defineProps<{
  kit: KitView
  set: SetView
  /** A handful of files, whose size is not chosen. */
  few: boolean
  /** How many files are hard to see on the ground. */
  weak: number
  which: Omit<Listing, 'order' | 'trial'>
  narrowed: boolean
  /** How many files are left, once that is known. */
  found: number | undefined
}>()
defineEmits<{ stock: [] }>()
const wanted = defineModel<string>('wanted', { required: true })
const filter = defineModel<Only>('filter', { required: true })
const order = defineModel<Order>('order', { required: true })
const size = defineModel<number>('size', { required: true })
const trial = defineModel<Trial>('trial')

/** Sides of the pictures in a grid, in pixels. */
const SIZES = [16, 24, 48, 84, 128, 200, 280]
const changes = useSetChanges(() => set.id)
const acts = useActs()

/** What is in view is left out, or handed over again, in one step. */
function leaveOut(out: boolean): void {
  if (found) changes.states.mutateAsync({ which, left_out: out, reset: false }).catch(complain)
}
</script>

<template>
  <div class="sieve">
    <v-text-field v-model="wanted" class="field" type="search" aria-label="File name" placeholder="file name" />
    <PickOne v-model="filter" label="Which files" :options="worded(FILTERS)" />
    <PickOne v-model="order" label="Order of the files" :options="worded(ORDERS)" />
    <PickOne
      v-if="!few"
      v-model="size"
      class="size"
      label="Size of the pictures"
      :options="SIZES.map((one) => ({ value: one, title: `${one} px` }))"
    />
    <button
      v-if="weak && !narrowed"
      v-hint="'Less than 3:1 along half of the outline, on the ground they are shown on'"
      type="button"
      class="link small"
      @click="filter = 'weak'"
    >
      {{ weak }} hard to see
    </button>
    <template v-if="narrowed">
      <span class="muted" role="status"><template v-if="found !== undefined">{{ found }} of {{ set.files }}</template></span>
      <v-btn :disabled="!found" @click="leaveOut(filter !== 'out')">
        {{ filter === 'out' ? 'Hand these over again' : 'Leave these out' }}
      </v-btn>
      <ActForMany
        v-for="act in acts"
        :key="act.key"
        :act="act"
        :kit="kit"
        :settings="set.acts[act.key]"
        :disabled="!found"
        @put="(settings) => changes.act.mutateAsync({ key: act.key, settings, which }).catch(complain)"
      />
    </template>
    <VariantBar v-model:trial="trial" :kit="kit" :set="set" />
    <button type="button" class="link small" @click="$emit('stock')">stock library…</button>
  </div>
</template>

<style scoped>
.sieve {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  align-items: center;
  padding: 0 16px 6px;
}
.field {
  flex: 0 1 136px;
}
.size {
  flex-basis: 82px;
}
</style>
