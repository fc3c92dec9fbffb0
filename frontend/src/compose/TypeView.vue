<script setup lang="ts">
import { computed, ref, watch } from 'vue'

import type { KitView } from '@/api/client'
import { useAccept } from '@/api/formats'
import { useProving } from '@/api/proving'
import { bringTypeface, removeTypeface, setType, useShippedFaces, useType } from '@/api/typefaces'
import { complain, say } from '@/frame/notices'
import { useMe } from '@/frame/session'
import ChoiceRow from '@/parts/ChoiceRow.vue'
import { plain } from '@/parts/picking'
import PickOne from '@/parts/PickOne.vue'
import SavedField from '@/parts/SavedField.vue'
import SlideField from '@/parts/SlideField.vue'

/** The typefaces of the kit: named, brought along, shown in what looks like them, and tried in a sentence. */
const props = defineProps<{ kit: KitView }>()
const { data: type } = useType(() => props.kit)
const { data: shipped } = useShippedFaces()
const { samples } = useProving(() => props.kit.id)
const { mayChange } = useMe()
const accept = useAccept('typeface')

type Field = 'headline' | 'text'
const FACES: { field: Field; label: string; size: number; weight: number }[] = [
  { field: 'headline', label: 'Headlines', size: 32, weight: 700 },
  { field: 'text', label: 'Text', size: 16, weight: 400 },
]
const named = computed(() => ({ headline: type.value?.headline?.wanted ?? '', text: type.value?.text?.wanted ?? '' }))
function put(change: Partial<Record<Field, string>>): void {
  setType(props.kit.id, { ...named.value, ...change }).catch(complain)
}

const WORDS = [
  { field: 'headline', label: 'Headline', longest: 60 },
  { field: 'sentence', label: 'Sentence', longest: 160 },
  { field: 'action', label: 'Button', longest: 30 },
] as const
function speak(field: (typeof WORDS)[number]['field'], text: string): void {
  samples.mutateAsync({ ...props.kit.samples, [field]: text }).catch(complain)
}

const picker = ref<HTMLInputElement>()
const license = ref('')
async function bring(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (!file) return
  try {
    await bringTypeface(props.kit.id, file, license.value)
    license.value = ''
    say(`${file.name} brought; previews and sheets are set in it where its name is said`)
  } catch (error) {
    complain(error)
  }
}

const text = ref('')
watch(() => props.kit.samples.headline, (words) => (text.value = text.value || words), { immediate: true })
const size = ref(28)
const weight = ref(400)
const kind = ref('all kinds')
const mood = ref('any mood')
const KINDS = ['all kinds', 'serif', 'slab', 'sans', 'monospace', 'handwriting'].map((value) => ({ value, label: value }))
const moods = computed(() => ['any mood', ...[...new Set(shipped.value?.flatMap((face) => face.moods) ?? [])].sort()])
const tried = computed(() => [
  ...(type.value?.own ?? []).map((face) => ({ ...face, moods: ['brought along'] })),
  ...(shipped.value ?? []),
].filter(
  (face) => (kind.value === 'all kinds' || face.kind === kind.value) && (mood.value === 'any mood' || face.moods.includes(mood.value)),
))
/** A weight within what a face has. */
const within = (face: { weights: number[] }) => Math.min(Math.max(weight.value, face.weights[0]!), face.weights[1]!)
const family = (name: string) => `"${name}", var(--face, sans-serif)`
</script>

<template>
  <div v-if="type" class="type-view">
    <div class="chosen scrolls">
      <h1>Typefaces</h1>
      <section v-for="one in FACES" :key="one.field" :aria-label="one.label">
        <label class="named">
          {{ one.label }}
          <SavedField :value="named[one.field]" :label="`Typeface for ${one.label.toLowerCase()}`" :longest="80" :disabled="!mayChange" @save="(name) => put({ [one.field]: name })" />
        </label>
        <template v-if="type[one.field]">
          <p class="shown" :style="{ fontFamily: family(type[one.field]!.shown), fontSize: `${one.size}px`, fontWeight: one.weight }">
            {{ one.field === 'headline' ? kit.samples.headline : kit.samples.sentence }}
          </p>
          <p v-if="!type[one.field]!.same" class="small">
            {{ type[one.field]!.wanted }} is not here. Shown in <strong>{{ type[one.field]!.shown }}</strong>: {{ type[one.field]!.why }}.
          </p>
          <ul v-if="type[one.field]!.like.length" class="like small">
            <li class="muted">{{ type[one.field]!.same ? 'looks like it' : 'others like it' }}</li>
            <li v-for="like in type[one.field]!.like.slice(type[one.field]!.same ? 0 : 1, 4)" :key="like.family">
              <span :style="{ fontFamily: family(like.family) }">{{ like.family }}</span>
              <span v-if="like.words" class="muted"> {{ like.words }}</span>
              <button v-if="mayChange" type="button" class="link" :aria-label="`Use ${like.family} for ${one.label.toLowerCase()}`" @click="put({ [one.field]: like.family })">use</button>
            </li>
          </ul>
        </template>
      </section>
      <section aria-labelledby="own-title">
        <h2 id="own-title">Your own typefaces</h2>
        <ul v-if="type.own.length" class="like">
          <li v-for="face in type.own" :key="face.key">
            <span :style="{ fontFamily: family(face.family) }">{{ face.family }}</span>
            <span class="muted small"> {{ face.kind }}, {{ face.license }}</span>
            <button v-if="mayChange" type="button" class="link small" :aria-label="`Remove ${face.family}`" @click="removeTypeface(kit.id, face.key).catch(complain)">remove</button>
          </li>
        </ul>
        <template v-if="mayChange">
          <p class="muted small">TTF, OTF or WOFF2. They are used in previews and sheets, and not given on to those outside.</p>
          <div class="bring">
            <v-text-field v-model="license" class="field" aria-label="What the license allows" placeholder="what its license allows, and for whom" />
            <v-btn :disabled="!license.trim()" @click="picker?.click()">Bring a typeface…</v-btn>
          </div>
          <input ref="picker" type="file" :accept="accept" hidden data-testid="typeface-file" @change="bring" />
        </template>
      </section>
      <section aria-labelledby="words-title">
        <h2 id="words-title">Words of previews and sheets</h2>
        <p class="muted small">Of your own company. Empty ones are made of the kit's name.</p>
        <label v-for="one in WORDS" :key="one.field" class="named">
          {{ one.label }}
          <SavedField :value="kit.samples[one.field]" :label="`${one.label} of previews and sheets`" :longest="one.longest" :disabled="!mayChange" @save="speak(one.field, $event)" />
        </label>
      </section>
    </div>
    <div class="tried scrolls">
      <h2>Two that go together</h2>
      <ul class="pairs">
        <li v-for="pair in type.pairs" :key="`${pair.headline} ${pair.text}`">
          <p class="head" :style="{ fontFamily: family(pair.headline), fontWeight: pair.weight }">{{ kit.samples.headline }}</p>
          <p :style="{ fontFamily: family(pair.text) }">{{ kit.samples.sentence }}</p>
          <p class="small"><strong>{{ pair.headline }}</strong> over <strong>{{ pair.text }}</strong></p>
          <p class="small muted">{{ pair.why }}</p>
          <button v-if="mayChange" type="button" class="link small" :aria-label="`Use ${pair.headline} over ${pair.text}`" @click="put({ headline: pair.headline, text: pair.text })">use both</button>
        </li>
      </ul>
      <h2>One sentence in all of them</h2>
      <div class="asked">
        <v-text-field v-model="text" class="field" aria-label="Sentence to try" />
        <div class="slide"><SlideField v-model="size" label="Size" :min="9" :max="96" unit="px" /></div>
        <div class="slide"><SlideField v-model="weight" label="Weight" :min="100" :max="900" :step="50" /></div>
        <ChoiceRow v-model="kind" label="Kind of typeface" :options="KINDS" />
        <PickOne v-model="mood" label="Mood" class="mood" :options="plain(moods)" />
      </div>
      <ul class="all">
        <li v-for="face in tried" :key="face.family">
          <p class="line" :style="{ fontFamily: family(face.family), fontSize: `${size}px`, fontWeight: within(face) }">{{ text || face.family }}</p>
          <p class="small">
            <strong>{{ face.family }}</strong> <span class="muted">{{ face.kind }}, {{ face.moods.join(', ') }}, {{ face.weights[0] }} to {{ face.weights[1] }}</span>
            <template v-if="mayChange">
              <button type="button" class="link" :aria-label="`Use ${face.family} for headlines`" @click="put({ headline: face.family })">for headlines</button>
              <button type="button" class="link" :aria-label="`Use ${face.family} for text`" @click="put({ text: face.family })">for text</button>
            </template>
          </p>
        </li>
        <li v-if="!tried.length" class="muted">No typeface is both; choose another kind or mood.</li>
      </ul>
    </div>
  </div>
</template>

<style scoped>
.type-view {
  display: grid;
  grid-template-columns: 380px minmax(0, 1fr);
  flex: 1;
  min-height: 0;
}
.chosen,
.tried {
  display: grid;
  gap: 14px;
  align-content: start;
  padding: 14px 16px 24px;
}
.chosen {
  border-right: 1px solid var(--rule);
}
section {
  display: grid;
  gap: 6px;
}
.named {
  display: grid;
  grid-template-columns: 84px 1fr;
  align-items: center;
}
.shown {
  line-height: 1.2;
  overflow-wrap: anywhere;
}
.like li {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 8px;
  align-items: baseline;
  padding: 2px 0;
}
.bring {
  display: flex;
  gap: 8px;
  align-items: start;
}
.pairs {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(230px, 1fr));
  gap: 14px 18px;
}
.pairs li {
  display: grid;
  gap: 3px;
  align-content: start;
  justify-items: start;
  padding-top: 8px;
  border-top: 1px solid var(--rule);
}
.head {
  font-size: 22px;
  line-height: 1.2;
}
.asked {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 14px;
  align-items: center;
}
.asked > .field {
  flex: 1 0 300px;
}
.slide {
  width: 210px;
}
.mood {
  flex: 0 0 150px;
}
.all li {
  padding: 8px 0;
  border-top: 1px solid var(--hair);
  content-visibility: auto;
  contain-intrinsic-size: auto 70px;
}
.line {
  line-height: 1.25;
  overflow-wrap: anywhere;
}
.all .link {
  margin-left: 8px;
}
@media (max-width: 1180px) {
  .type-view {
    grid-template-columns: 320px minmax(0, 1fr);
  }
}
</style>
