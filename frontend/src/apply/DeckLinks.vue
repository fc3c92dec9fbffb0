<script setup lang="ts">
import { computed, ref, watch } from 'vue'

import type { SetView } from '@/api/client'
import { useSetChanges } from '@/api/sets'
import { useLinksOfSet } from '@/api/themes'
import type { components } from '@/api/schema'
import { complain } from '@/frame/notices'
import SwatchBox from '@/parts/SwatchBox.vue'

type Follower = components['schemas']['FollowerView']

/** What follows the theme of the decks after the plan, and what stays a code, with the reason and a way out. */
const props = defineProps<{ set: SetView }>()
const emit = defineEmits<{ point: [paint: string | undefined] }>()
const open = ref(false)
const { data, error, isFetching } = useLinksOfSet(() => props.set, open)
watch(error, (problem) => problem && complain(problem))
const changes = useSetChanges(() => props.set.id)

const head = computed(() => {
  if (!data.value) return 'Reading the decks…'
  const { linked, typed } = data.value
  if (!linked && !typed) return 'Everything that changes follows the theme already.'
  return `${linked} typed ${linked === 1 ? 'color is' : 'colors are'} linked to the theme, ${typed} ${typed === 1 ? 'stays a code' : 'stay codes'}.`
})
const told = (one: Follower) => {
  if (one.place) return `follows ${one.place} from now on`
  if (one.left) return `no longer follows ${one.left}: ${one.why}`
  return `stays a code: ${one.why}`
}
const seen = (one: Follower) => one.where.join('\n') + (one.of_where > one.where.length ? `\nand ${one.of_where - one.where.length} more` : '')
function send({ paint, near }: Follower): void {
  changes.aim.mutateAsync({ paints: [paint], target: near!.target }).catch(complain)
}
</script>

<template>
  <div class="links">
    <button type="button" class="link small" :aria-expanded="open" @click="open = !open">What follows the theme</button>
    <template v-if="open">
      <p class="small" role="status" :class="{ muted: isFetching }">{{ head }}</p>
      <ul v-if="data?.rows.length" class="found-list scrolls" aria-label="What follows the theme" tabindex="0">
        <li
          v-for="one in data.rows"
          :key="[one.paint, one.kind, one.hex, one.place, one.left, one.why].join()"
          @mouseenter="emit('point', one.paint)"
          @mouseleave="emit('point', undefined)"
        >
          <p v-hint="seen(one)" class="what small">
            <SwatchBox :css="one.was" :size="14" /><SwatchBox :css="one.hex" :size="14" />
            <strong>{{ one.name }}</strong>
            <span class="muted">{{ one.kind }}{{ one.sites > 1 ? ` ×${one.sites}` : '' }}</span>
          </p>
          <p class="small">{{ told(one) }}</p>
          <p v-if="one.near" class="remedies">
            <button type="button" class="remedy" @click="send(one)">
              <SwatchBox :css="one.near.hex" :size="12" />take {{ one.near.title }} ({{ one.near.apart }} off)
            </button>
          </p>
        </li>
      </ul>
    </template>
  </div>
</template>

<style scoped>
.what {
  display: flex;
  gap: 6px;
  align-items: center;
}
</style>
