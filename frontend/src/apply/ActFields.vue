<script setup lang="ts">
import { computed } from 'vue'

import type { KitView } from '@/api/client'
import NumberField from '@/parts/NumberField.vue'
import { baseTokens, plain } from '@/parts/picking'
import PickOne from '@/parts/PickOne.vue'
import TickBox from '@/parts/TickBox.vue'
import { type Act, changed, countingFields, type Settings } from './acts'

/** The settings of an act: whether it is done, and how; `short` ones ask for the first choice only. */
const props = defineProps<{ act: Act; kit: KitView; settings: Settings | undefined; label?: string; short?: boolean }>()
const emit = defineEmits<{ put: [settings: Settings] }>()

const lower = computed(() => props.act.title.toLowerCase())
/** One choice decides whether it is done, too. */
const first = computed(() => props.act.fields.find((field) => field.kind === 'choice'))
const rest = computed(() => (props.short || !props.settings ? [] : countingFields(props.act, props.settings).filter((field) => field !== first.value)))

const put = (change: NonNullable<Settings>) => emit('put', changed(props.act, props.kit, props.settings ?? undefined, change))

function choose(value: string): void {
  if (!first.value || !value) emit('put', null)
  else put({ [first.value.name]: value })
}
</script>

<template>
  <PickOne
    v-if="first"
    :label="label ?? act.title"
    :hint="act.words"
    :model-value="(settings?.[first.name] as string | undefined) ?? ''"
    :options="[{ value: '', title: act.without }, ...plain(first.options)]"
    @update:model-value="choose"
  />
  <TickBox v-else :model-value="!!settings" @update:model-value="(done) => emit('put', done ? changed(act, kit, undefined, {}) : null)">
    {{ act.words.charAt(0).toUpperCase() + act.words.slice(1) }}
  </TickBox>
  <template v-for="field in rest" :key="field.name">
    <PickOne
      v-if="field.kind !== 'number'"
      :label="`${field.title} of the ${lower}`"
      :hint="field.words"
      :model-value="settings![field.name] as string"
      :options="field.kind === 'color' ? baseTokens(kit.colors) : plain(field.options)"
      @update:model-value="(value) => put({ [field.name]: value })"
    />
    <NumberField
      v-else
      :label="`${field.title} of the ${lower}`"
      :hint="field.words"
      :min="field.least ?? 0"
      :max="field.most ?? 1000"
      :model-value="settings![field.name] as number"
      @update:model-value="(value) => put({ [field.name]: value })"
    />
  </template>
</template>

<style scoped>
.pick {
  flex: 1 1 0;
}
</style>
