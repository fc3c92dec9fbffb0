<script setup lang="ts">
import { computed, ref, watch } from 'vue'

import type { KitView, Only, SetView } from '@/api/client'
import { useSetChanges } from '@/api/sets'
import { keepTheme, useTheme } from '@/api/themes'
import { useHand } from '@/frame/hand'
import { complain } from '@/frame/notices'
import type { Option } from '@/parts/picking'
import PickOne from '@/parts/PickOne.vue'
import SetReading from './SetReading.vue'

/** The one choice by which decks are mostly worked: which color of the kit goes to which place of their themes. */
const props = defineProps<{ kit: KitView; set: SetView }>()
defineEmits<{ only: [which: Only] }>()
const changes = useSetChanges(() => props.set.id)
/** The theme whose places are seen: that of one master among others, or all of them, which go the same way. */
const of = ref('')
const { data: theme } = useTheme(() => props.set, of)
const brought = computed(() => theme.value?.themes ?? [])
const decks = (count: number) => `in ${count} ${count === 1 ? 'deck' : 'decks'}`
const themes = computed<Option<string>[]>(() => [
  { value: '', title: 'all themes alike' },
  ...brought.value.map((one) => ({ value: one.key, title: one.title, words: `${decks(one.files)}${one.own ? `, ${one.own} its own way` : ''}` })),
])
watch(brought, (now) => {
  if (of.value && !now.some((one) => one.key === of.value)) of.value = ''
})

const KEEP = 'keep'
const options = computed<Option<string | null>[]>(() => [
  { value: null, title: of.value ? 'as in all' : 'its own way' },
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
const put = (slot: string, target: string | null) =>
  changes.theme.mutateAsync({ places: { [slot]: target }, proposed: false, theme: of.value || null }).catch(complain)
/** One theme among others goes as all do again. */
const asAll = () =>
  changes.theme
    .mutateAsync({ places: Object.fromEntries(places.value.map((one) => [one.slot, null])), proposed: false, theme: of.value })
    .catch(complain)
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
      <button v-if="of && places.some((one) => one.target)" type="button" class="link small" @click="asAll">As all themes</button>
      <span v-else-if="theme && places.length && !of" class="acts small">
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
    <label v-if="brought.length" class="which small">
      <span v-hint="'Slides that were pasted in bring the themes of their masters along'">Of</span>
      <PickOne v-model="of" label="Theme of which masters" :options="themes" />
    </label>
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
    <SetReading :set="set" @only="$emit('only', $event)" />
  </section>
</template>

<style scoped>
.theme,
.places {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 4px;
}
.which {
  display: grid;
  grid-template-columns: 26px minmax(0, 1fr);
  align-items: center;
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
