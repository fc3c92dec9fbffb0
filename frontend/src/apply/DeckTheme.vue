<script setup lang="ts">
import { computed, ref } from 'vue'

import type { KitView, SetView } from '@/api/client'
import { keepTheme, useSetChanges, useTheme } from '@/api/queries'
import { useHand } from '@/frame/hand'
import { complain } from '@/frame/notices'
import type { Option } from '@/parts/picking'
import PickOne from '@/parts/PickOne.vue'
import SetReading from './SetReading.vue'

/** The one choice by which decks are mostly worked: which color of the kit goes to which place of their themes. */
const props = defineProps<{ kit: KitView; set: SetView }>()
const changes = useSetChanges(() => props.set.id)
const { data: theme } = useTheme(() => props.set)

const KEEP = 'keep'
const options = computed<Option<string | null>[]>(() => [
  { value: null, title: 'its own way' },
  { value: KEEP, title: 'kept as it came' },
  ...props.kit.colors.flatMap((color) =>
    color.steps.map((step) => ({
      value: `${color.key}.${step.base ? 'base' : step.step}`,
      title: step.base ? color.name : `${color.name} ${step.step}`,
      hex: step.hex,
      group: color.name,
    })),
  ),
])
const places = computed(() => theme.value?.places ?? [])
/** The place that a pressed pennant is given to. */
const held = ref<string>()
const put = (slot: string, target: string | null) => changes.theme.mutateAsync({ places: { [slot]: target }, proposed: false }).catch(complain)
const propose = () => changes.theme.mutateAsync({ places: {}, proposed: true }).catch(complain)

useHand(() => {
  const place = places.value.find((one) => one.slot === held.value)
  return place ? { label: `${place.title} of the theme`, put: (color) => void put(place.slot, `${color.key}.base`) } : null
})
const keep = (kept: boolean) => keepTheme(props.set, kept).catch(complain)
const used = (kinds: readonly string[]) => (kinds.length ? kinds.join(', ') : 'not used by itself')
</script>

<template>
  <section class="theme" aria-label="Theme of the decks">
    <header>
      <h2 class="small">Theme</h2>
      <span v-if="theme && places.length" class="acts small">
        <button v-if="!theme.as_proposed" type="button" class="link small" @click="propose">Propose it again</button>
        <button
          v-if="theme.of_kit !== 'same'"
          v-hint="'New decks and the templates of this kit get it, too'"
          type="button"
          class="link small"
          @click="keep(true)"
        >
          Keep as the kit's
        </button>
        <template v-else>
          <span class="muted">the kit's own</span>
          <button v-hint="'New decks get a proposal again'" type="button" class="link small" @click="keep(false)">Let go</button>
        </template>
      </span>
    </header>
    <ol class="places">
      <li v-for="place in places" :key="place.slot" :class="{ held: held === place.slot }" @focusin="held = place.slot">
        <span v-hint="used(place.used)" class="small title">{{ place.title }}</span>
        <span v-hint="place.was.join(', ')" class="was" aria-hidden="true">
          <i v-for="hex in place.was" :key="hex" :style="{ background: hex }" />
        </span>
        <PickOne
          :label="`${place.title} of the theme`"
          :model-value="place.target"
          :options="options"
          @update:model-value="(target) => put(place.slot, target)"
        />
      </li>
    </ol>
    <SetReading :reading="set.reading!" />
  </section>
</template>

<style scoped>
.theme,
.places {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 4px;
}
header {
  display: flex;
  align-items: baseline;
  justify-content: space-between;
}
.acts {
  display: flex;
  gap: 10px;
}
li {
  display: grid;
  grid-template-columns: 66px 34px minmax(0, 1fr);
  gap: 6px;
  font-size: 13px;
  align-items: center;
  padding-left: 4px;
  border-left: 2px solid transparent;
}
li.held {
  border-color: var(--ink);
}
.was {
  display: flex;
  height: 20px;
  border: 1px solid var(--hair);
}
.was i {
  flex: 1;
}
.title {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
