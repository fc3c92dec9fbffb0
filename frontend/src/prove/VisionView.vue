<script setup lang="ts">
import { refDebounced } from '@vueuse/core'
import { computed, ref } from 'vue'

import type { KitView } from '@/api/client'
import { useVision } from '@/api/proving'
import SlideField from '@/parts/SlideField.vue'
import { seenWith, visionName } from './visions'

const props = defineProps<{ kit: KitView }>()
const severity = ref(100)
const asked = refDebounced(severity, 120)
const { data: view } = useVision(() => props.kit, asked)

const byKey = computed(() => new Map(props.kit.colors.map((color, at) => [color.key, { color, at }])))
const findings = computed(() =>
  (view.value?.confusions ?? []).map((one) => {
    const [first, second] = [byKey.value.get(one.first)!, byKey.value.get(one.second)!]
    const look = view.value!.looks.find((entry) => entry.vision === one.vision)!
    return {
      ...one,
      names: `${first.color.name} and ${second.color.name}`,
      apart: one.usual,
      usual: [first.color.hex, second.color.hex],
      seen: [look.colors[first.at]!, look.colors[second.at]!],
    }
  }),
)
</script>

<template>
  <div v-if="view" class="vision scrolls">
    <header>
      <span>Severity</span>
      <SlideField v-model="severity" label="Severity" :min="0" :max="100" :step="10" unit="%" live />
      <p class="muted small">
        100 %: one kind of cone is missing; less: it is weak. By the model of Machado, Oliveira and Fernandes (2009).
      </p>
    </header>
    <table class="looks">
      <thead>
        <tr>
          <th scope="col"><span class="unseen">vision</span></th>
          <th v-for="color in kit.colors" :key="color.key" v-hint="color.name" scope="col">{{ color.name }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="look in view.looks" :key="look.vision">
          <th scope="row">{{ visionName(look.vision) }}</th>
          <td v-for="(hex, at) in look.colors" :key="at" v-hint="hex" :style="{ background: hex }" />
        </tr>
      </tbody>
    </table>
    <h2>{{ findings.length ? 'Hard to tell apart' : 'Every two colors are told apart under each of these.' }}</h2>
    <ul>
      <li v-for="one in findings" :key="`${one.vision} ${one.first} ${one.second}`">
        <span class="two" aria-hidden="true"><i v-for="hex in one.usual" :key="hex" :style="{ background: hex }" /></span>
        <span aria-hidden="true">→</span>
        <span class="two" aria-hidden="true"><i v-for="(hex, at) in one.seen" :key="at" :style="{ background: hex }" /></span>
        <span>
          <strong>{{ one.names }}</strong> are hard to tell apart {{ seenWith(one.vision) }}
          <span class="muted">(difference {{ one.left }}, usually {{ one.apart }})</span>
        </span>
      </li>
    </ul>
    <p v-if="findings.length" class="muted">
      Do not let one of them carry a meaning by its hue alone: add a word, a shape, or a difference in lightness. The
      pairs are shown with each vision under “pairs”.
    </p>
  </div>
</template>

<style scoped>
.vision {
  display: grid;
  gap: 14px;
  align-content: start;
  flex: 1;
  padding: 12px 16px;
}
header {
  display: flex;
  gap: 20px;
  align-items: center;
}
.looks {
  border-collapse: separate;
  border-spacing: 0 3px;
  table-layout: fixed;
  width: 100%;
}
.looks th {
  font-size: 12px;
  text-align: left;
}
.looks thead th {
  max-width: 90px;
  padding-right: 6px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  font-weight: 400;
}
.looks tbody th {
  width: 120px;
}
td {
  height: 46px;
}
ul {
  display: grid;
  gap: 8px;
}
li {
  display: flex;
  gap: 10px;
  align-items: center;
}
.two {
  display: inline-flex;
}
.two i {
  width: 34px;
  height: 26px;
}
</style>
