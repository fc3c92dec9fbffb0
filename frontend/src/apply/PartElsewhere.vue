<script setup lang="ts">
import { computed, onBeforeUnmount, ref } from 'vue'

import type { SetView } from '@/api/client'
import { partElsewhere } from '@/api/pointing'
import { pictureUrl } from '@/api/files'
import { useSetChanges } from '@/api/sets'
import type { components } from '@/api/schema'
import { complain, say } from '@/frame/notices'
import SteadyImage from '@/parts/SteadyImage.vue'
import TickBox from '@/parts/TickBox.vue'
import type { Part } from './pointing'

/** The same part in the other pictures of a set: looked for in one after another, shown where it was found, and given the
    same way in one press. */
const props = defineProps<{ set: SetView; asset: { id: string }; part: Part; number: number }>()
const changes = useSetChanges(() => props.set.id)

type Found = components['schemas']['PartElsewhere']
const looked = ref(0)
const total = ref<number>()
const found = ref<Found[]>([])
const failed = ref<string[]>([])
const looking = ref(false)
/** What was found, but is not meant. */
const spared = ref(new Set<string>())
let gone = false
onBeforeUnmount(() => (gone = true))

async function look(): Promise<void> {
  looking.value = true
  looked.value = 0
  total.value = undefined
  found.value = []
  failed.value = []
  spared.value = new Set()
  try {
    while (!gone && (total.value === undefined || looked.value < total.value)) {
      const some = await partElsewhere(props.set.id, props.asset.id, props.number, looked.value)
      found.value = [...found.value, ...some.found]
      for (const one of some.found) if (!one.sure) spared.value.add(one.asset)
      failed.value = [...failed.value, ...some.failed]
      looked.value = some.looked
      total.value = some.total
    }
  } catch (problem) {
    complain(problem)
  }
  looking.value = false
}

const SIZE = 160
const certain = computed(() => found.value.filter((one) => one.sure).length)
const meant = computed(() => found.value.filter((one) => !spared.value.has(one.asset)))
function mean(asset: string, on: boolean): void {
  if (on) spared.value.delete(asset)
  else spared.value.add(asset)
}
const percent = (part: number) => `${100 * part}%`
function framed({ left, top, width, height }: Found['region']): Record<string, string> {
  return { left: percent(left), top: percent(top), width: percent(width), height: percent(height) }
}
async function takeAll(): Promise<void> {
  const regions = Object.fromEntries(meant.value.map((one) => [one.asset, one.region]))
  try {
    await changes.samePart.mutateAsync({ way: props.part.way!, found: regions })
    say(`Framed in ${meant.value.length} more`)
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
      <template v-else>
        It is in {{ certain || 'none' }} of {{ total }} others<template v-if="found.length > certain">, and perhaps in {{ found.length - certain }}: tick where it is</template>.
      </template>
      <template v-if="failed.length"> Not looked through: {{ failed.join(', ') }}.</template>
    </p>
    <v-btn v-if="found.length && !looking" :disabled="!meant.length" @click="takeAll">The same there</v-btn>
    <ul v-if="found.length" class="found small" aria-label="Where it was found">
      <li v-for="one in found" :key="one.asset">
        <span class="seen">
          <SteadyImage :src="pictureUrl({ id: one.asset, fingerprint: '' }, { size: SIZE, side: 'before' })" alt="" />
          <span class="frame" :style="framed(one.region)" />
        </span>
        <TickBox :model-value="!spared.has(one.asset)" @update:model-value="(on) => mean(one.asset, on)">{{ one.name }}</TickBox>
      </li>
    </ul>
  </div>
</template>

<style scoped>
.elsewhere {
  display: grid;
  gap: 6px;
  justify-items: start;
  overflow-wrap: anywhere;
}
.found {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(118px, 1fr));
  gap: 8px;
  inline-size: 100%;
  padding: 0;
  margin: 0;
  list-style: none;
}
.seen {
  position: relative;
  display: inline-block;
  line-height: 0;
}
.found :deep(.v-label) {
  font-size: inherit;
}
.seen :deep(img) {
  max-inline-size: 100%;
  max-block-size: 90px;
}
.frame {
  position: absolute;
  outline: 1px solid #fff;
  box-shadow: 0 0 0 2px #000;
}
</style>
