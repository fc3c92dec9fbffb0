<script setup lang="ts">
import { computed } from 'vue'

import type { Only, SetView } from '@/api/client'
import { useGroundsAndInks } from '@/api/plans'
import { useSetChanges } from '@/api/sets'
import { complain } from '@/frame/notices'
import type { Option } from '@/parts/picking'
import PickOne from '@/parts/PickOne.vue'
import { keyOf, named, pairOptions } from './pairs'
import PartGround from './PartGround.vue'
import SetReading from './SetReading.vue'

/** The one choice by which mails are mostly worked: one ground and one ink for all of the set, and how buttons look. */
const props = defineProps<{ set: SetView }>()
defineEmits<{ only: [which: Only] }>()
const changes = useSetChanges(() => props.set.id)
const { data } = useGroundsAndInks(() => props.set)

type Pressed = NonNullable<typeof data.value>['pressed'][number]['pressed']
const now = computed(() => data.value?.now ?? undefined)
const pairs = computed<Option<string | null>[]>(() => [
  { value: null, title: 'every paint its own way' },
  ...pairOptions(data.value?.pairs ?? [], now.value),
])
/** How buttons look: one of the ways, or a color that makes a trio with the pair. */
const ways = computed<Option<string>[]>(() => [
  ...(data.value?.pressed ?? []).map((one) => ({ value: one.pressed as string, title: one.pressed, words: one.words })),
  ...(data.value?.actions ?? []).map((one) => ({
    value: one.token,
    title: one.title,
    hex: one.hex,
    words: `${one.ratio}:1 to the ground${one.approved ? ', an approved trio' : ''}`,
    group: 'With the pair, as a trio',
  })),
])
const isWay = (value: string): value is Pressed => !!data.value?.pressed.some((one) => one.pressed === value)

function put(key: string | null, looks: string | undefined): void {
  const pressed = looks === undefined ? 'action color' : isWay(looks) ? looks : null
  const action = pressed ? null : looks
  changes.groundAndInk.mutateAsync({ ...(key ? named(key) : {}), pressed, action, kept: false }).catch(complain)
}

const parts = computed(() => data.value?.parts ?? [])
const DARK = '/dark'
const own = computed(() => parts.value.filter((part) => part.kept || part.now))
const head = computed(() => {
  if (!own.value.length) return parts.value.map((part) => part.title).join(', ')
  return own.value.map((part) => `${part.title}: ${part.now?.title ?? 'kept'}`).join('; ')
})
</script>

<template>
  <div class="whole">
    <PickOne
      label="Ground and ink of all"
      :model-value="now ? keyOf(now) : null"
      :options="pairs"
      @update:model-value="(key) => put(key, now?.pressed ?? undefined)"
    />
    <PickOne
      v-if="now"
      label="Buttons"
      :model-value="now.pressed ?? now.action ?? undefined"
      asked="as the rules say"
      :options="ways"
      @update:model-value="(pressed) => put(keyOf(now!), pressed)"
    />
    <details v-if="parts.length" class="parts" :open="own.length > 0">
      <summary class="small">{{ head }}</summary>
      <label v-for="part in parts" :key="part.part" class="small">
        <span>{{ part.title }} <span class="muted">{{ part.part === DARK ? '' : `in ${part.files}` }}</span></span>
        <PartGround
          :set="set"
          :part="part.part"
          :label="part.title"
          :rest="part.part === DARK ? 'as the mails say' : 'as the rest'"
          :pairs="data?.pairs ?? []"
          :so="part"
        />
      </label>
    </details>
    <SetReading :set="set" @only="$emit('only', $event)" />
  </div>
</template>

<style scoped>
.whole {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 6px;
}
.parts label {
  display: grid;
  grid-template-columns: 110px minmax(0, 1fr);
  gap: 6px;
  align-items: center;
  padding-top: 4px;
}
</style>
