<script setup lang="ts">
import { refDebounced } from '@vueuse/core'
import { computed, ref, useTemplateRef, watch } from 'vue'
import { useRouter } from 'vue-router'

import type { Family, KitView } from '@/api/client'
import { useShelf } from '@/api/composing'
import { readCodes, useStartKit } from '@/api/kits'
import { complain, say } from '@/frame/notices'
import { useCandidates } from '@/parts/candidates'
import LayoutSketch from '@/parts/LayoutSketch.vue'
import { FAMILIES } from '@/parts/families'
import { plain } from '@/parts/picking'
import PickOne from '@/parts/PickOne.vue'
import { useStepwise } from '@/parts/stepwise'
import CandidatePanel from './CandidatePanel.vue'

/** Palettes to start from: ready-made ones, and every kit of the workspace. */
const props = defineProps<{ kit: KitView }>()
const router = useRouter()
const near = ref('')
const also = ref('')
const settled = refDebounced(computed(() => [near.value.trim(), also.value.trim()].filter(Boolean)), 250)
const mood = ref('')
const trade = ref('')
const like = ref('')
const family = ref<Family | ''>('')
const count = ref(0)
const COUNTS = [
  { value: 0, title: 'any number' },
  ...[3, 4, 5, 6, 7, 8].map((many) => ({ value: many, title: `${many} colors` })),
]
const { data: shelf, error } = useShelf(() => ({
  near: settled.value,
  family: family.value || undefined,
  count: count.value || undefined,
  mood: mood.value || undefined,
  trade: trade.value || undefined,
  like: like.value || undefined,
  kit_id: props.kit.id,
}))
const any = (words: string, found: readonly string[] | undefined) => [{ value: '', title: words }, ...plain(found ?? [])]
/** Sample layouts a palette is seen in on its card. */
const LAYOUTS = ['email', 'poster', 'social picture']
const layouts = computed(() => shelf.value?.layouts.filter((layout) => LAYOUTS.includes(layout.name)) ?? [])
type Palette = NonNullable<typeof shelf.value>['found'][number]

const cards = useTemplateRef('cards')
const { shown, restart } = useStepwise(cards, () => shelf.value?.found ?? [], 48)
watch(() => shelf.value?.found, restart)

// What was picked up from the shelf, and is to be taken in.
const codes = ref<string[]>([])
const found = useCandidates(
  () => props.kit,
  () => codes.value,
)
function put(colors: string[]): void {
  codes.value = [...new Set([...codes.value, ...colors])]
}

const start = useStartKit()
async function startFrom(palette: Palette): Promise<void> {
  try {
    const read = await readCodes(palette.colors.join('\n'), undefined, new AbortController().signal)
    const colors = read.found.map((one) => ({ name: one.name, role: one.role, code: one.hex }))
    const made = await start.mutateAsync({ name: palette.name, colors })
    say(`${made.name} started with ${made.colors.length} colors`)
    await router.push({ name: 'compose', params: { kitId: made.id } })
  } catch (problem) {
    complain(problem)
  }
}
</script>

<template>
  <div class="shelf">
    <section class="palettes" aria-labelledby="shelf-title">
      <header>
        <h1 id="shelf-title">Reference shelf</h1>
        <span class="muted">{{ shelf?.found.length ?? 0 }} of {{ shelf?.total ?? 0 }}, press a color to take that one</span>
      </header>
      <div class="search" role="search">
        <v-text-field v-model="near" class="field near" aria-label="Near a color" placeholder="near a color: #0b5e6b" spellcheck="false" />
        <v-text-field v-model="also" class="field near" aria-label="And near another color" placeholder="and another" spellcheck="false" />
        <PickOne v-model="mood" label="Mood" :options="any('any mood', shelf?.moods)" />
        <PickOne v-model="trade" label="Trade" :options="any('any trade', shelf?.trades)" />
        <PickOne v-model="family" label="Family" :options="[{ value: '', title: 'any family' }, ...plain(FAMILIES)]" />
        <PickOne v-model="count" label="Number of colors" :options="COUNTS" />
      </div>
      <p v-if="like" class="small">
        Most like <strong>{{ like }}</strong> first. <button type="button" class="link" @click="like = ''">all of them again</button>
      </p>
      <p v-if="error" class="problem" role="alert">{{ error.message }}</p>
      <ul ref="cards" class="scrolls cards">
        <li v-for="(palette, at) in shown" :key="`${palette.name} ${at}`" :aria-label="palette.name">
          <span class="colors">
            <button
              v-for="(hex, place) in palette.colors"
              :key="`${hex} ${place}`"
              v-hint="hex"
              type="button"
              :class="{ nearest: palette.nearest.includes(place) }"
              :style="{ background: hex }"
              :aria-label="`Take ${hex} of ${palette.name}`"
              @click="put([hex])"
            />
          </span>
          <span class="seen" aria-hidden="true">
            <LayoutSketch v-for="layout in layouts" :key="layout.name" :layout="layout" :slots="palette.slots" :label="layout.name" />
          </span>
          <span class="words">
            <strong>{{ palette.name }}</strong>
            <small class="muted">
              {{ palette.kit_id ? 'a kit of this workspace' : [palette.build, palette.moods.join(', '), palette.trades.join(', ')].join('; ') }}<template v-if="palette.difference">; nearest differs by {{ palette.difference }}</template>
            </small>
          </span>
          <span class="acts">
            <button type="button" class="link small" :aria-label="`Take all of ${palette.name}`" @click="put(palette.colors)">take all</button>
            <button type="button" class="link small" :aria-label="`More like ${palette.name}`" @click="like = palette.name">more like this</button>
            <button type="button" class="link small" :aria-label="`Start a kit from ${palette.name}`" @click="startFrom(palette)">start a kit from this</button>
          </span>
        </li>
        <li v-if="shelf && !shelf.found.length" class="muted">Nothing on the shelf is like that. Ask for less.</li>
      </ul>
    </section>
    <CandidatePanel :kit="kit" :found="found" verb="taken from the shelf" @added="codes = []">
      <template #nothing><p>Press a color of a palette, or “take all”; what you pick up is listed here.</p></template>
    </CandidatePanel>
  </div>
</template>

<style scoped>
.shelf {
  display: grid;
  grid-template-columns: 1fr min(400px, 40%);
  flex: 1;
  min-height: 0;
}
.palettes {
  display: flex;
  flex-direction: column;
  gap: 8px;
  min-width: 0;
  min-height: 0;
  padding: 14px 0 0 14px;
  border-right: 1px solid var(--rule);
}
header {
  display: flex;
  flex-wrap: wrap;
  gap: 0 12px;
  align-items: baseline;
}
.search {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  padding-right: 14px;
}
.search > :deep(.pick) {
  flex: 1 0 120px;
}
.search .near {
  flex: 1 0 160px;
}
.problem {
  font-weight: 600;
}
.cards {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(250px, 1fr));
  gap: 18px 16px;
  align-content: start;
  flex: 1;
  padding: 4px 14px 14px 0;
}
.cards li {
  display: grid;
  gap: 5px;
  align-content: start;
  content-visibility: auto;
  contain-intrinsic-size: auto 210px;
}
.colors {
  display: flex;
  height: 42px;
}
.colors button {
  flex: 1;
  padding: 0;
  border: 0;
  cursor: copy;
}
.colors button:focus-visible {
  z-index: 1;
}
.seen {
  display: flex;
  gap: 5px;
  align-items: start;
  height: 92px;
  overflow: hidden;
}
.seen :deep(svg) {
  width: 33%;
}
.words {
  display: grid;
}
.words small {
  font-size: 11px;
  line-height: 1.3;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 12px;
}
/* Of the colors, the one that a search came nearest to. */
.nearest {
  border-bottom: 5px solid var(--ink) !important;
}
</style>
