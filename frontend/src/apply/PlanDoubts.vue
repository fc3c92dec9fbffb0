<script setup lang="ts">
import { ref, watch } from 'vue'

import type { SetView } from '@/api/client'
import { useDoubts } from '@/api/plans'
import { useSetChanges } from '@/api/sets'
import type { components } from '@/api/schema'
import { complain } from '@/frame/notices'
import SwatchBox from '@/parts/SwatchBox.vue'
import NamedFiles from './NamedFiles.vue'

type Remedy = components['schemas']['RemedyView']

/** What in the plan deserves a look, worst first, with remedies that are one press away. */
const props = defineProps<{ set: SetView; ground: string }>()
const emit = defineEmits<{ see: [file: string]; point: [paint: string | undefined] }>()

const { data, error } = useDoubts(
  () => props.set,
  () => props.ground,
)
watch(error, (problem) => problem && complain(problem))
const changes = useSetChanges(() => props.set.id)
const open = ref(false)

function take({ targets, file }: Remedy): void {
  changes.aim.mutateAsync({ targets, ...(file ? { file } : {}) }).catch(complain)
}
</script>

<template>
  <div v-if="!error" class="doubts">
    <!-- It holds its place: what lies below must not move under a hand. -->
    <p v-if="!data" class="muted small">Looking for what deserves a look…</p>
    <p v-else-if="!data.total" class="muted small">Nothing in this plan looks doubtful.</p>
    <template v-else>
      <button type="button" class="link small" :aria-expanded="open" @click="open = !open">
        {{ data.total }} worth a look
      </button>
      <ol v-if="open" class="found-list scrolls" aria-label="Worth a look" tabindex="0">
        <li
          v-for="doubt in data.doubts"
          :key="doubt.kind + doubt.paints.map((paint) => paint.key).join()"
          @mouseenter="emit('point', doubt.paints[0]?.key)"
          @mouseleave="emit('point', undefined)"
        >
          <p class="what">
            <span v-for="paint in doubt.paints" :key="paint.key" v-hint="`${paint.key} to ${paint.target_name}`" class="pair">
              <SwatchBox :css="paint.css" :size="14" /><SwatchBox :css="paint.target_css" :size="14" />
            </span>
            <strong>{{ doubt.kind }}</strong>
          </p>
          <p class="small">{{ doubt.reason }}</p>
          <NamedFiles :files="doubt.files" :of="doubt.of_files" @see="emit('see', $event)" />
          <p class="remedies">
            <button v-for="remedy in doubt.remedies" :key="remedy.title" type="button" class="remedy" @click="take(remedy)">
              <SwatchBox v-if="remedy.css" :css="remedy.css" :size="12" />{{ remedy.title }}
            </button>
          </p>
        </li>
        <li v-if="data.total > data.doubts.length" class="small muted">
          and {{ data.total - data.doubts.length }} more, which show when these are settled
        </li>
      </ol>
    </template>
  </div>
</template>

<style scoped>
.doubts {
  margin-top: 6px;
}
.what {
  display: flex;
  gap: 6px;
  align-items: center;
  font-size: 13px;
}
.pair {
  display: inline-flex;
}
</style>
