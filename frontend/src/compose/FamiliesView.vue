<script setup lang="ts">
import { computed, ref } from 'vue'

import type { ColorView, Family, KitView } from '@/api/client'
import { useComposing, useFamilies, useSameTone } from '@/api/composing'
import { complain } from '@/frame/notices'
import { plain } from '@/parts/picking'
import PickOne from '@/parts/PickOne.vue'

/** Which tone family each color is in; pulling colors into one; the same tone at other hues. */
const props = defineProps<{ kit: KitView; chosen: ColorView }>()
const emit = defineEmits<{ choose: [key: string]; add: [hex: string] }>()
const { data: families } = useFamilies(() => props.kit)
const { data: tones } = useSameTone(
  () => props.kit,
  () => props.chosen.key,
)
const { pull } = useComposing(() => props.kit.id)

const colorful = computed(() => families.value?.families.filter((entry) => entry.colorful) ?? [])
const pulling = computed(
  () => families.value?.members.filter((member) => member.family && colorful.value.some((one) => one.family === member.family)) ?? [],
)
const all = ref<Family>('jewel')

function pullInto(keys: string[], family: Family): void {
  pull.mutateAsync({ keys, family }).catch(complain)
}

const ranges = (family: { lightness: number[]; chroma: number[] }) =>
  `lightness ${family.lightness[0]} to ${family.lightness[1]} %, chroma ${family.chroma[0]} to ${family.chroma[1]}`
</script>

<template>
  <section class="families scrolls" aria-labelledby="families-title">
    <header>
      <h1 id="families-title">Tone families</h1>
      <p v-if="families" class="muted">{{ families.common ? `Most colors are ${families.common}.` : 'No family holds most colors.' }} A swatch shows where a color would go at its own hue; press it to pull it there.</p>
    </header>
    <table v-if="families" class="listing">
      <thead>
        <tr>
          <th>color</th>
          <th>family</th>
          <th v-for="entry in families.families" :key="entry.family" v-hint="ranges(entry)">{{ entry.family }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="member in families.members" :key="member.key" :class="{ chosen: member.key === chosen.key }">
          <th>
            <button type="button" class="name" @click="emit('choose', member.key)">
              <i :style="{ background: member.hex }" />{{ member.name }}
            </button>
          </th>
          <td>
            {{ member.family ?? 'in none' }}
            <strong v-if="member.outlier" class="small">unlike the others</strong>
          </td>
          <td v-for="entry in families.families" :key="entry.family">
            <span v-if="member.family === entry.family" v-hint="'It is here'" class="here" :style="{ background: member.hex }" />
            <button
              v-else-if="member.pulled[entry.family]"
              v-hint="member.pulled[entry.family]!"
              type="button"
              class="there"
              :style="{ background: member.pulled[entry.family]! }"
              :aria-label="`Pull ${member.name} into ${entry.family}, ${member.pulled[entry.family]}`"
              @click="pullInto([member.key], entry.family)"
            />
          </td>
        </tr>
      </tbody>
    </table>
    <div class="line">
      <span>All {{ pulling.length }} colorful ones into</span>
      <PickOne v-model="all" class="of" label="Family for all" :options="plain(colorful.map((entry) => entry.family))" />
      <v-btn :disabled="!pulling.length" @click="pullInto(pulling.map((member) => member.key), all)">Pull them</v-btn>
    </div>
    <h2>Same tone as {{ chosen.name }}, other hue</h2>
    <p class="muted small">Equal lightness and chroma; a dashed edge marks hues at which the screen has less chroma than that. Press one to take it as new.</p>
    <ul class="tones">
      <li v-for="tone in tones" :key="tone.hex">
        <button
          v-hint="`${tone.hex}, ${tone.description}`"
          type="button"
          :class="{ less: !tone.held }"
          :style="{ background: tone.hex, color: tone.ink }"
          :aria-label="`Take ${tone.hex}, ${tone.description}${tone.held ? '' : ', less chroma'}`"
          @click="emit('add', tone.hex)"
        />
      </li>
    </ul>
  </section>
</template>

<style scoped>
.families {
  display: flex;
  flex-direction: column;
  gap: 8px;
  flex: 1;
  padding: 10px 16px 16px;
}
header p {
  font-size: 13px;
}
.chosen th,
.chosen td {
  background: var(--panel);
}
td {
  padding-right: 6px;
}
.name {
  display: flex;
  gap: 8px;
  align-items: center;
  padding: 0;
  border: 0;
  background: none;
  font-weight: 600;
  cursor: pointer;
}
.name i {
  width: 26px;
  height: 22px;
  border: 1px solid var(--rule);
}
.here,
.there {
  display: block;
  width: 100%;
  min-width: 34px;
  height: 26px;
  padding: 0;
  border: 0;
}
.there {
  height: 14px;
  cursor: pointer;
}
.there:hover {
  height: 26px;
}
.here {
  outline: 2px solid var(--ink);
  outline-offset: -2px;
}
.of {
  flex: 0 0 130px;
}
.line {
  display: flex;
  gap: 8px;
  align-items: center;
}
.tones {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(44px, 1fr));
  gap: 2px;
}
.tones button {
  width: 100%;
  height: 38px;
  border: 0;
  cursor: copy;
}
.tones .less {
  border: 2px dashed currentColor;
}
</style>
