<script setup lang="ts">
import { computed } from 'vue'

import type { KitView } from '@/api/client'
import { baseTokens, plain } from '@/parts/picking'
import PickOne from '@/parts/PickOne.vue'
import SlideField from '@/parts/SlideField.vue'
import { type Act, changed, countingFields, type Settings } from './acts'

/** All that an act can be told, with words beside each setting. */
const props = defineProps<{ act: Act; kit: KitView; settings: Settings | undefined }>()
const emit = defineEmits<{ put: [settings: Settings] }>()

const first = computed(() => props.act.fields.find((field) => field.kind === 'choice'))
const rest = computed(() => (props.settings ? countingFields(props.act, props.settings).filter((field) => field !== first.value) : []))
const put = (change: NonNullable<Settings>) => emit('put', changed(props.act, props.kit, props.settings ?? undefined, change))
</script>

<template>
  <PickOne
    v-if="first"
    :label="act.title"
    :hint="act.words"
    :model-value="(settings?.[first.name] as string | undefined) ?? ''"
    :options="[{ value: '', title: act.without }, ...plain(first.options)]"
    @update:model-value="(value) => (value ? put({ [first!.name]: value }) : emit('put', null))"
  />
  <div v-for="field in rest" :key="field.name" v-hint="field.words || undefined" class="setting">
    <span class="small">{{ field.title }}</span>
    <PickOne
      v-if="field.kind !== 'number'"
      :label="`${field.title} of the ${act.title.toLowerCase()}`"
      :model-value="settings![field.name] as string"
      :options="field.kind === 'color' ? baseTokens(kit.colors) : plain(field.options)"
      @update:model-value="(value) => put({ [field.name]: value })"
    />
    <SlideField
      v-else
      :model-value="settings![field.name] as number"
      :label="`${field.title} of the ${act.title.toLowerCase()}`"
      :min="field.least ?? 0"
      :max="field.most ?? 100"
      unit="%"
      @update:model-value="(value) => put({ [field.name]: Math.round(value) })"
    />
  </div>
</template>

<style scoped>
.setting {
  display: grid;
  gap: 2px;
}
</style>
