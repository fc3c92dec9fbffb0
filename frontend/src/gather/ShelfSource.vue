<script setup lang="ts">
import { refDebounced } from '@vueuse/core'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'

import type { Family, KitView } from '@/api/client'
import { useShelf } from '@/api/composing'
import { readCodes, useStartKit } from '@/api/queries'
import { complain, say } from '@/frame/notices'
import { useCandidates } from '@/parts/candidates'
import { FAMILIES } from '@/parts/families'
import { plain } from '@/parts/picking'
import PickOne from '@/parts/PickOne.vue'
import CandidatePanel from './CandidatePanel.vue'

/** Palettes to start from: ready-made ones, and every kit of the workspace. */
const props = defineProps<{ kit: KitView }>()
const router = useRouter()
const near = ref('')
const settled = refDebounced(near, 250)
const family = ref<Family | ''>('')
const count = ref(0)
const COUNTS = [
  { value: 0, title: 'any number' },
  ...[3, 4, 5, 6, 7, 8].map((many) => ({ value: many, title: `${many} colors` })),
]
const { data: shelf, error } = useShelf(() => ({
  near: settled.value.trim() || undefined,
  family: family.value || undefined,
  count: count.value || undefined,
}))
type Palette = NonNullable<typeof shelf.value>['found'][number]

const MOST_SHOWN = 120
const shown = computed(() => (shelf.value?.found ?? []).slice(0, MOST_SHOWN))

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
        <v-text-field v-model="near" class="field near" aria-label="Near a color" placeholder="near a color: #0b5e6b" spellcheck="false" maxlength="200" />
        <PickOne v-model="family" label="Family" :options="[{ value: '', title: 'any family' }, ...plain(FAMILIES)]" />
        <PickOne v-model="count" label="Number of colors" :options="COUNTS" />
      </div>
      <p v-if="error" class="problem" role="alert">{{ error.message }}</p>
      <ul class="scrolls">
        <li v-for="(palette, at) in shown" :key="`${palette.name} ${at}`">
          <span class="words">
            <strong>{{ palette.name }}</strong>
            <small class="muted">
              {{ palette.kit_id ? 'a kit of this workspace' : [palette.family, palette.scheme].filter(Boolean).join(', ') }}<template v-if="palette.difference">; nearest differs by {{ palette.difference }}</template>
            </small>
          </span>
          <span class="colors">
            <button
              v-for="(hex, place) in palette.colors"
              :key="`${hex} ${place}`"
              v-hint="hex"
              type="button"
              :class="{ nearest: place === palette.nearest }"
              :style="{ background: hex }"
              :aria-label="`Take ${hex} of ${palette.name}`"
              @click="put([hex])"
            />
          </span>
          <v-btn @click="put(palette.colors)">Take all</v-btn>
          <v-btn @click="startFrom(palette)">Start a kit from this</v-btn>
        </li>
        <li v-if="shelf && !shelf.found.length" class="muted">Nothing on the shelf is like that. Ask for less.</li>
        <li v-if="(shelf?.found.length ?? 0) > MOST_SHOWN" class="muted">{{ shelf!.found.length - MOST_SHOWN }} more: search to narrow them down.</li>
      </ul>
    </section>
    <CandidatePanel :kit="kit" :found="found" verb="taken from the shelf" @added="codes = []">
      <template #nothing><p>Press a color of a palette, or “Take all”; what you pick up is listed here.</p></template>
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
  gap: 6px;
  padding-right: 14px;
}
.search .field {
  flex: 0 1 130px;
}
.search .near {
  flex: 1;
}
.problem {
  font-weight: 600;
}
.scrolls {
  flex: 1;
  padding-right: 14px;
}
li {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 6px;
  align-items: center;
  padding: 6px 0;
  border-top: 1px solid var(--hair);
}
.words {
  flex: 1 0 100%;
  display: flex;
  gap: 10px;
  align-items: baseline;
}
.words small {
  font-size: 12px;
}
.colors {
  display: flex;
  flex: 1;
  min-width: 160px;
  height: 30px;
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
/* Of the colors, the one that a search came nearest to. */
.nearest {
  border-bottom: 5px solid var(--ink) !important;
}
</style>
