<script setup lang="ts">
import { computed } from 'vue'

import type { SetView } from '@/api/client'
import { useGroundsAndInks, useSetChanges } from '@/api/queries'
import { complain } from '@/frame/notices'
import type { Option } from '@/parts/picking'
import PickOne from '@/parts/PickOne.vue'

/** The one choice by which mails are mostly worked: one ground and one ink for all of the set, and how buttons look. */
const props = defineProps<{ set: SetView }>()
const changes = useSetChanges(() => props.set.id)
const { data } = useGroundsAndInks(() => props.set)

type Pair = NonNullable<typeof data.value>['pairs'][number]
type Pressed = NonNullable<typeof data.value>['pressed'][number]['pressed']
const keyOf = (pair: { ground: string; ink: string }) => `${pair.ink} on ${pair.ground}`
const option = (pair: Pair): Option<string | null> => ({
  value: keyOf(pair),
  title: pair.title,
  sample: { ground: pair.ground_hex, ink: pair.ink_hex },
  words: `${pair.ratio}:1${pair.approved ? ', approved' : ''}`,
})
const now = computed(() => data.value?.now ?? undefined)
const pairs = computed<Option<string | null>[]>(() => {
  const listed = (data.value?.pairs ?? []).map(option)
  const own: Option<string | null>[] = [{ value: null, title: 'every paint its own way' }]
  const so = now.value
  if (so && !listed.some((one) => one.value === keyOf(so))) own.push({ value: keyOf(so), title: so.title })
  return [...own, ...listed]
})
const ways = computed<Option<Pressed>[]>(() =>
  (data.value?.pressed ?? []).map((one) => ({ value: one.pressed, title: one.pressed, words: one.words })),
)

function put(key: string | null, pressed: Pressed | undefined): void {
  const [ink, ground] = key?.split(' on ') ?? [null, null]
  changes.groundAndInk.mutateAsync({ ground, ink, pressed: pressed ?? 'action color' }).catch(complain)
}

const told = computed(() => {
  const { texts, read, lost, unknown } = props.set.reading!
  const weak = texts - unknown - read - lost
  return [
    `${read} of ${texts} kinds of text read`,
    ...(lost ? [`${lost} read less well than before`] : []),
    ...(weak ? [`${weak} did not before either`] : []),
    ...(unknown ? [`${unknown} on pictures`] : []),
  ].join('; ')
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
      :model-value="now.pressed ?? undefined"
      asked="as the rules say"
      :options="ways"
      @update:model-value="(pressed) => put(keyOf(now!), pressed)"
    />
    <p class="small" :class="{ short: set.reading!.lost }" role="status">{{ told }}.</p>
  </div>
</template>

<style scoped>
.whole {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 6px;
}
.short {
  font-weight: 600;
}
</style>
