<script setup lang="ts">
import { useEventListener, useLocalStorage } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'

import { removeSet, startSet, useKit, useSet, useSetChanges } from '@/api/queries'
import { useHand } from '@/frame/hand'
import { isTyping, useDraft } from '@/frame/history'
import { complain, say } from '@/frame/notices'
import ChoiceRow from '@/parts/ChoiceRow.vue'
import EmptyState from '@/parts/EmptyState.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import AssetTile, { type Compare } from './AssetTile.vue'
import CloserLook from './CloserLook.vue'
import DropNote from './DropNote.vue'
import GroundChoice from './GroundChoice.vue'
import PaintList from './PaintList.vue'
import SetBar from './SetBar.vue'
import { dropFiles, filesOf, type Drop } from './upload'

const route = useRoute()
const router = useRouter()
const kitId = computed(() => route.params.kitId as string)
const { data: kit } = useKit(kitId)
const setId = computed(() => (route.params.setId as string) || kit.value?.sets[0]?.id)
const { data: set, error, refetch } = useSet(setId)
const changes = useSetChanges(setId)

const chosen = ref<string>()
const pointed = ref<string>()
const spot = computed(() => pointed.value)
const compare = useLocalStorage<'inset' | 'beside'>('pavese-compare', 'inset')
const holding = ref(false)
const shownAs = computed<Compare>(() => (holding.value ? 'before' : compare.value))
const ground = ref('#ffffff')
const drop = ref<Drop>()
const dragging = ref(false)
const closer = ref<number>()
const picker = ref<HTMLInputElement>()

watch(setId, () => {
  chosen.value = pointed.value = drop.value = closer.value = undefined
})

function aim(paint: string, to: { target?: string; color?: string }): void {
  changes.aim.mutateAsync({ paints: [paint], ...to }).catch(complain)
}

const undoIt = () => void changes.undo.mutateAsync(undefined).catch(complain)
const redoIt = () => void changes.redo.mutateAsync(undefined).catch(complain)
useDraft(() => {
  const history = set.value?.history
  return history ? { undo: history.undo, redo: history.redo, savedAt: history.saved_at, undoIt, redoIt } : null
})
useHand(() => {
  const paint = chosen.value
  return paint ? { label: paint, put: (color) => aim(paint, { color: color.key }) } : null
})

/** A new set takes its name from the zip or folder that was dropped. */
function nameFor(files: File[]): string {
  const first = files[0]
  const folder = first && first.name.includes('/') ? first.name.split('/')[0] : undefined
  const zip = files.length === 1 && first?.name.toLowerCase().endsWith('.zip') ? first.name.slice(0, -4) : undefined
  return (zip || folder || `Set ${(kit.value?.sets.length ?? 0) + 1}`).slice(0, 120)
}

async function take(files: File[]): Promise<void> {
  if (!files.length) return
  try {
    let target = setId.value
    if (!target) {
      target = (await startSet(kitId.value, nameFor(files))).id
      await router.replace({ name: 'apply', params: { kitId: kitId.value, setId: target } })
    }
    const done = await dropFiles(target, files, (shown) => (drop.value = shown))
    say(`${done.taken} ${done.taken === 1 ? 'file' : 'files'} taken${done.refused.length ? `, ${done.refused.length} refused` : ''}`)
    if (!done.refused.length) drop.value = undefined
  } catch (problem) {
    drop.value = undefined
    complain(problem)
  }
}

async function onDrop(event: DragEvent): Promise<void> {
  dragging.value = false
  if (event.dataTransfer?.types.includes('Files')) await take(await filesOf(event.dataTransfer))
}

function onDragOver(event: DragEvent): void {
  if (event.dataTransfer?.types.includes('Files')) dragging.value = true
}

async function start(): Promise<void> {
  try {
    const made = await startSet(kitId.value, `Set ${(kit.value?.sets.length ?? 0) + 1}`)
    await router.push({ name: 'apply', params: { kitId: kitId.value, setId: made.id } })
  } catch (problem) {
    complain(problem)
  }
}

async function remove(): Promise<void> {
  if (!set.value) return
  try {
    const name = set.value.name
    await removeSet(set.value)
    say(`${name} removed`)
    await router.replace({ name: 'apply', params: { kitId: kitId.value } })
  } catch (problem) {
    complain(problem)
  }
}

const sure = ref(false)
const asset = computed(() => (closer.value === undefined ? undefined : set.value?.assets[closer.value]))

function turn(by: number): void {
  const count = set.value?.assets.length ?? 0
  if (closer.value !== undefined && count) closer.value = (closer.value + by + count) % count
}

async function removeAsset(): Promise<void> {
  const gone = asset.value
  closer.value = undefined
  if (gone) await changes.removeFile.mutateAsync(gone.id).then(() => say(`${gone.name} taken out`), complain)
}

useEventListener(window, 'keydown', (event: KeyboardEvent) => {
  if (isTyping(event) || event.ctrlKey || event.metaKey) return
  if (event.key === 'Escape') chosen.value = undefined
  if (event.key === 'b' && !event.repeat) holding.value = true
})
useEventListener(window, 'keyup', (event: KeyboardEvent) => {
  if (event.key === 'b') holding.value = false
})

// A handful of files is looked at large, a set of icons as a set.
const few = computed(() => (set.value?.assets.length ?? 0) <= 8)
const side = computed(() => (!few.value ? 84 : compare.value === 'beside' ? 420 : 280))
</script>

<template>
  <div
    class="apply"
    @dragenter="onDragOver"
    @dragover.prevent="onDragOver"
    @dragleave.self="dragging = false"
    @drop.prevent="onDrop"
  >
    <SetBar v-if="kit?.sets.length" :kit="kit" :set-id="setId" view="apply" @start="start" />
    <ProblemNote v-if="error" :error="error" @again="refetch()" />
    <EmptyState v-else-if="kit && !setId" title="Make files ours">
      Drop SVG icons or illustrations here, up to 300 at a time, or a zip of them. Their colors are listed once, across
      all files, and sent to steps of the kit.
      <template #actions><v-btn class="strong" @click="picker?.click()">Choose files…</v-btn></template>
    </EmptyState>
    <div v-else-if="set && kit" class="body">
      <section class="paints" aria-labelledby="set-title">
        <header>
          <h1 id="set-title">{{ set.name }}</h1>
          <p class="muted">{{ set.assets.length }} {{ set.assets.length === 1 ? 'file' : 'files' }}, {{ set.paints.length }} paints</p>
        </header>
        <p v-if="set.paints.length" class="hint muted">
          Point at a paint to see where it stands. Choose it, then pick a pennant for it.
        </p>
        <PaintList
          v-model:chosen="chosen"
          v-model:pointed="pointed"
          :kit="kit"
          :paints="set.paints"
          @aim="aim"
        />
        <footer>
          <v-btn :disabled="!set.paints.length" @click="changes.planAnew.mutateAsync(undefined).catch(complain)">
            Plan anew
          </v-btn>
          <v-btn v-if="!sure" @click="sure = true">Remove set…</v-btn>
          <template v-else>
            <v-btn class="strong" @click="remove">Remove {{ set.assets.length }} files</v-btn>
            <v-btn @click="sure = false">No</v-btn>
          </template>
        </footer>
      </section>

      <section class="work" aria-label="Files">
        <header>
          <GroundChoice v-model="ground" :kit="kit" />
          <ChoiceRow
            v-model="compare"
            label="Compare"
            :options="[
              { value: 'inset', label: 'before as inset' },
              { value: 'beside', label: 'side by side' },
            ]"
          />
          <v-btn
            title="Hold the button, or the key b"
            :aria-pressed="holding"
            @pointerdown="holding = true"
            @pointerup="holding = false"
            @pointerleave="holding = false"
          >
            Hold for before
          </v-btn>
          <span class="gap" />
          <v-btn :disabled="!set.history.undo" :title="set.history.undo ?? ''" @click="undoIt">Undo</v-btn>
          <v-btn :disabled="!set.history.redo" :title="set.history.redo ?? ''" @click="redoIt">Redo</v-btn>
          <v-btn @click="picker?.click()">Add files…</v-btn>
          <v-btn
            class="strong"
            :disabled="!set.assets.length"
            :to="{ name: 'hand-over', params: { kitId, setId: set.id } }"
          >
            Hand over {{ set.assets.length }}
          </v-btn>
        </header>
        <DropNote v-if="drop" :drop="drop" @close="drop = undefined" />
        <EmptyState v-if="!set.assets.length && !drop" title="This set is empty">
          Drop SVG files, folders or a zip anywhere on this screen.
          <template #actions><v-btn class="strong" @click="picker?.click()">Choose files…</v-btn></template>
        </EmptyState>
        <div class="scrolls">
          <div class="grid" :class="{ wide: shownAs === 'beside' }" :style="{ '--side': `${side}px`, '--high': `${few ? side * 0.68 : side}px` }">
            <AssetTile
              v-for="(entry, at) in set.assets"
              :key="entry.id"
              :asset="entry"
              :spot="spot"
              :compare="shownAs"
              :ground="ground"
              :size="side"
              @open="closer = at"
            />
          </div>
        </div>
      </section>
    </div>

    <input
      ref="picker"
      type="file"
      multiple
      accept=".svg,.svgz,.zip,image/svg+xml,application/zip"
      hidden
      data-testid="files"
      @change="
        (event) => {
          const input = event.target as HTMLInputElement
          void take([...(input.files ?? [])])
          input.value = ''
        }
      "
    />
    <CloserLook
      v-if="set && asset"
      v-model:spot="pointed"
      :model-value="true"
      :set="set"
      :asset="asset"
      :ground="ground"
      @update:model-value="closer = undefined"
      @turn="turn"
      @remove="removeAsset"
    />
    <div v-if="dragging" class="veil" @dragleave="dragging = false">
      <p>Drop SVG files, folders or a zip to add them{{ set ? ` to ${set.name}` : '' }}</p>
    </div>
  </div>
</template>

<style scoped>
.apply {
  position: relative;
  display: flex;
  flex-direction: column;
  flex: 1;
  min-height: 0;
}
.body {
  display: flex;
  flex: 1;
  min-height: 0;
}
.paints {
  display: flex;
  flex-direction: column;
  gap: 8px;
  flex: none;
  width: 312px;
  padding: 12px 16px 10px;
  border-right: 1px solid var(--rule);
  background: var(--panel);
  min-height: 0;
}
.paints header {
  display: flex;
  gap: 10px;
  align-items: baseline;
}
.paints footer {
  display: flex;
  gap: 6px;
}
.hint {
  font-size: 12px;
}
.work {
  display: flex;
  flex-direction: column;
  flex: 1;
  min-width: 0;
  min-height: 0;
}
.work > header {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 10px;
  align-items: center;
  padding: 10px 16px 8px;
}
.gap {
  flex: 1;
}
.scrolls {
  flex: 1;
  padding: 0 16px 16px;
}
.grid {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(calc(var(--side) + 26px), 1fr));
  gap: 6px;
}
.grid.wide {
  grid-template-columns: repeat(auto-fill, minmax(calc(var(--side) * 2 + 30px), 1fr));
}
.veil {
  position: absolute;
  inset: 0;
  z-index: 5;
  display: grid;
  place-items: center;
  border: 3px dashed var(--ink);
  background: color-mix(in srgb, var(--ground) 88%, transparent);
  font-size: 18px;
  font-weight: 700;
  pointer-events: none;
}
</style>
