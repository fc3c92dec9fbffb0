<script setup lang="ts">
import { computed, onBeforeUnmount, ref } from 'vue'

import type { SetView } from '@/api/client'
import { partElsewhere, useSetChanges } from '@/api/queries'
import type { components } from '@/api/schema'
import { complain, say } from '@/frame/notices'
import type { Part } from './pointing'

/** The same part in the other pictures of a set: looked for in one after another, and given the same way in one press. */
const props = defineProps<{ set: SetView; asset: { id: string }; part: Part; number: number }>()
const changes = useSetChanges(() => props.set.id)

type Found = components['schemas']['PartElsewhere']
const looked = ref(0)
const total = ref<number>()
const found = ref<Found[]>([])
const failed = ref<string[]>([])
const looking = ref(false)
let gone = false
onBeforeUnmount(() => (gone = true))

async function look(): Promise<void> {
  looking.value = true
  looked.value = 0
  total.value = undefined
  found.value = []
  failed.value = []
  try {
    while (!gone && (total.value === undefined || looked.value < total.value)) {
      const some = await partElsewhere(props.set.id, props.asset.id, props.number, looked.value)
      found.value = [...found.value, ...some.found]
      failed.value = [...failed.value, ...some.failed]
      looked.value = some.looked
      total.value = some.total
    }
  } catch (problem) {
    complain(problem)
  }
  looking.value = false
}

const NAMED = 6
const names = computed(() => {
  const more = found.value.length - NAMED
  return found.value.slice(0, NAMED).map((one) => one.name).join(', ') + (more > 0 ? ` and ${more} more` : '')
})
async function takeAll(): Promise<void> {
  const regions = Object.fromEntries(found.value.map((one) => [one.asset, one.region]))
  try {
    await changes.samePart.mutateAsync({ way: props.part.way!, found: regions })
    say(`Framed in ${found.value.length} more`)
    found.value = []
    total.value = undefined
  } catch (problem) {
    complain(problem)
  }
}
</script>

<template>
  <div class="elsewhere">
    <v-btn :disabled="looking" @click="look">Find it in the other pictures</v-btn>
    <p v-if="looking || total !== undefined" class="small" role="status">
      <template v-if="looking">Looking… {{ looked }}<template v-if="total !== undefined"> of {{ total }}</template> looked through.</template>
      <template v-else-if="!total">The set has no other picture.</template>
      <template v-else-if="!found.length">It is in none of {{ total }} others.</template>
      <template v-else>It is in {{ found.length }} of {{ total }} others: {{ names }}.</template>
      <template v-if="failed.length"> Not looked through: {{ failed.join(', ') }}.</template>
    </p>
    <v-btn v-if="found.length && !looking" @click="takeAll">The same there</v-btn>
  </div>
</template>

<style scoped>
.elsewhere {
  display: grid;
  gap: 6px;
  justify-items: start;
  overflow-wrap: anywhere;
}
</style>
