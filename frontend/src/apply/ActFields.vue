<script setup lang="ts">
import { computed } from 'vue'

import type { KitView } from '@/api/client'
import { type Act, changed, type Settings } from './acts'

/** The settings of an act: whether it is done, and how; `short` ones ask for the first choice only. */
const props = defineProps<{ act: Act; kit: KitView; settings: Settings | undefined; label?: string; short?: boolean }>()
const emit = defineEmits<{ put: [settings: Settings] }>()

const lower = computed(() => props.act.title.toLowerCase())
/** One choice decides whether it is done, too. */
const first = computed(() => props.act.fields.find((field) => field.kind === 'choice'))
const rest = computed(() => (props.short || !props.settings ? [] : props.act.fields.filter((field) => field !== first.value)))
const text = (event: Event) => (event.target as HTMLSelectElement).value

const put = (change: NonNullable<Settings>) => emit('put', changed(props.act, props.kit, props.settings ?? undefined, change))

function choose(event: Event): void {
  const value = text(event)
  if (!first.value || !value) emit('put', null)
  else put({ [first.value.name]: value })
}
</script>

<template>
  <select v-if="first" class="field" :aria-label="label ?? act.title" :value="settings?.[first.name] ?? ''" :title="act.words" @change="choose">
    <option value="">no {{ lower }}</option>
    <option v-for="option in first.options" :key="option" :value="option">{{ option }}</option>
  </select>
  <label v-else class="tick">
    <input type="checkbox" :checked="!!settings" @change="emit('put', settings ? null : changed(act, kit, undefined, {}))" />
    {{ act.words.charAt(0).toUpperCase() + act.words.slice(1) }}
  </label>
  <template v-for="field in rest" :key="field.name">
    <select
      v-if="field.kind !== 'number'"
      class="field"
      :aria-label="`${field.title} of the ${lower}`"
      :title="field.words"
      :value="settings![field.name]"
      @change="put({ [field.name]: text($event) })"
    >
      <template v-if="field.kind === 'color'">
        <option v-for="color in kit.colors" :key="color.key" :value="`${color.key}.base`">{{ color.name }}</option>
      </template>
      <option v-for="option in field.options" v-else :key="option" :value="option">{{ option }}</option>
    </select>
    <input
      v-else
      class="field mono number"
      type="number"
      :min="field.least ?? undefined"
      :max="field.most ?? undefined"
      :aria-label="`${field.title} of the ${lower}`"
      :title="field.words"
      :value="settings![field.name]"
      @change="put({ [field.name]: Number(text($event)) })"
    />
  </template>
</template>

<style scoped>
.field {
  flex: 1 1 0;
}
.field.number {
  flex: none;
  width: 52px;
}
.tick {
  display: flex;
  gap: 8px;
  align-items: center;
}
</style>
