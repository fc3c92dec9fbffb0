<script setup lang="ts">
import { computed, ref } from 'vue'

import type { KitView, SetView } from '@/api/client'
import { usePlans, usePlanSaving } from '@/api/plans'
import { complain, say } from '@/frame/notices'
import PickOne from '@/parts/PickOne.vue'

/** Plans saved by name: used on this set, or on several at once, for the paints that they know. */
const props = defineProps<{ kit: KitView; set: SetView }>()
const { data: plans } = usePlans(() => props.set)
const { save, use, forget } = usePlanSaving()

const name = ref('')
const chosen = ref('')
const others = ref<string[]>([])
const more = computed(() => props.kit.sets.filter((one) => one.id !== props.set.id))
const known = computed(() => [
  { value: '', title: 'use a saved plan…' },
  ...(plans.value ?? []).map((one) => ({ value: one.id, title: one.name, words: `knows ${one.known} of ${one.of} paints here` })),
])
const plan = computed(() => plans.value?.find((one) => one.id === chosen.value))

function keep(): void {
  const wanted = name.value.trim()
  if (!wanted) return
  save
    .mutateAsync({ set: props.set, name: wanted })
    .then(() => say(`Saved as “${wanted}”`), complain)
    .finally(() => (name.value = ''))
}

function follow(): void {
  const now = plan.value
  if (!now) return
  const sets = [props.set.id, ...others.value]
  use
    .mutateAsync({ id: now.id, sets })
    .then(() => say(`${sets.length === 1 ? props.set.name : `${sets.length} sets`} now follow “${now.name}”`), complain)
}
</script>

<template>
  <div class="saved">
    <form class="row" @submit.prevent="keep">
      <v-text-field v-model="name" class="field" aria-label="Name for this plan" placeholder="save this plan as…" maxlength="110" />
      <v-btn type="submit" :disabled="!name.trim()">Save</v-btn>
    </form>
    <template v-if="plans?.length">
      <PickOne v-model="chosen" label="Saved plan" :options="known" />
      <template v-if="plan">
        <v-checkbox-btn v-for="one in more" :key="one.id" v-model="others" :value="one.id" :label="`also on ${one.name}`" />
        <div class="row">
          <v-btn class="strong" @click="follow">Use it on {{ others.length + 1 }} {{ others.length ? 'sets' : 'set' }}</v-btn>
          <v-btn @click="forget.mutateAsync({ id: plan.id, set: set }).catch(complain)">Forget it</v-btn>
        </div>
      </template>
    </template>
  </div>
</template>

<style scoped>
.saved {
  display: grid;
  gap: 6px;
  padding-top: 6px;
  border-top: 1px solid var(--hair);
}
.row {
  display: flex;
  gap: 6px;
}
.row .field {
  flex: 1;
}
</style>
