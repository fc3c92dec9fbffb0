<script setup lang="ts" generic="T extends string | number | null">
import { computed } from 'vue'
import { VAutocomplete } from 'vuetify/components/VAutocomplete'
import { VSelect } from 'vuetify/components/VSelect'

import { type Option, useShown } from './picking'
import SwatchBox from './SwatchBox.vue'

/**
 * One of several; long lists can be searched by typing. `asked` stands in the field while nothing is chosen; of
 * `fleeting` choices nothing stays in the field, they are done.
 */
const props = defineProps<{
  modelValue: T | undefined
  options: readonly Option<T>[]
  label: string
  asked?: string
  hint?: string
  disabled?: boolean
  fleeting?: boolean
}>()
const emit = defineEmits<{ 'update:modelValue': [value: T] }>()

/** So many are seen at once; more are searched. */
const FEW = 10
const control = computed(() => (props.options.length > FEW ? VAutocomplete : VSelect))
const shown = useShown(() => props.modelValue)
/** It is not known yet whether what was chosen is so. */
const waiting = computed(() => shown.value !== props.modelValue)
const items = computed(() =>
  props.options.flatMap((option, at) => {
    const head = option.group !== props.options[at - 1]?.group ? option.group : undefined
    return head ? [{ type: 'subheader', title: head }, option] : [option]
  }),
)

function pick(value: T): void {
  if (!props.fleeting) shown.value = value
  emit('update:modelValue', value)
}
</script>

<template>
  <component
    :is="control"
    v-hint="hint"
    class="field pick"
    :class="{ waiting }"
    :aria-busy="waiting"
    :model-value="shown"
    :items="items"
    item-title="title"
    item-value="value"
    :aria-label="label"
    :placeholder="asked"
    :disabled="disabled"
    auto-select-first
    @update:model-value="pick"
  >
    <!-- Nothing is loaded here: a bar for it would be made, and measured, in each of hundreds of them. -->
    <template #loader />
    <template #selection="{ item }">
      <SwatchBox v-if="item.hex" :css="item.hex" :size="14" />
      <span v-if="item.sample" class="sample" :style="{ background: item.sample.ground, color: item.sample.ink }">Aa</span>
      <span class="one">{{ item.title }}</span>
    </template>
    <template #item="{ item, props: row }">
      <v-list-item v-bind="row" role="option" :title="undefined">
        <span class="offered">
          <SwatchBox v-if="item.hex" :css="item.hex" :size="16" />
          <span v-if="item.sample" class="sample" :style="{ background: item.sample.ground, color: item.sample.ink }">Aa</span>
          <span>{{ item.title }}</span>
        </span>
        <span v-if="item.words" class="muted small">{{ item.words }}</span>
      </v-list-item>
    </template>
  </component>
</template>

<style scoped>
.one {
  margin-left: 6px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.one:first-child {
  margin-left: 0;
}
.sample {
  flex: none;
  padding: 0 5px;
  border: 1px solid var(--rule);
  font-size: 12px;
  font-weight: 600;
  line-height: 18px;
}
.offered {
  display: flex;
  gap: 8px;
  align-items: center;
}
</style>
