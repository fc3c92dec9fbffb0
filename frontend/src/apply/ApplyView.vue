<script setup lang="ts">
import { useEventListener, useLocalStorage } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'

import type { AssetView } from '@/api/client'
import { useSetFile } from '@/api/files'
import { useAccept, useFormats } from '@/api/formats'
import { useKit } from '@/api/kits'
import { useWeak } from '@/api/plans'
import { removeSet, startSet, useSet, useSetChanges } from '@/api/sets'
import { useGuests, useHand } from '@/frame/hand'
import { isTyping, useDraft } from '@/frame/history'
import { complain, say } from '@/frame/notices'
import DropNote from '@/parts/DropNote.vue'
import EmptyState from '@/parts/EmptyState.vue'
import FileDrop from '@/parts/FileDrop.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { useAiming } from './aiming'
import { useArriving } from './arriving'
import type { Compare } from './AssetTile.vue'
import CloserLook from './CloserLook.vue'
import CompareBar from './CompareBar.vue'
import FileSieve from './FileSieve.vue'
import { useListed } from './listed'
import OtherPlans from './OtherPlans.vue'
import PaintList from './PaintList.vue'
import PlanAnew from './PlanAnew.vue'
import PlanHead from './PlanHead.vue'
import PlanSettings from './PlanSettings.vue'
import { goingAlong } from './rows'
import SetBar from './SetBar.vue'
import StockShelf from './StockShelf.vue'
import TileGrid from './TileGrid.vue'

const route = useRoute()
const router = useRouter()
const kitId = computed(() => route.params.kitId as string)
const { data: kit } = useKit(kitId)
const setId = computed(() => (route.params.setId as string) || kit.value?.sets[0]?.id)
const { data: set, error, refetch } = useSet(setId)
const changes = useSetChanges(setId)
const { data: formats } = useFormats()
const accept = useAccept('set')
useGuests(() => set.value?.guests ?? [])
/** The kit and the guests of the set: what paints of it may be sent to. */
const ours = computed(() => (kit.value && set.value ? { ...kit.value, colors: [...kit.value.colors, ...set.value.guests] } : kit.value))

const more = ref(false)
const chosen = ref<string>()
const pointed = ref<string>()
const spots = computed(() => (pointed.value ? goingAlong(set.value?.paints ?? [], pointed.value, opened.value) : []))
const compare = useLocalStorage<'inset' | 'beside' | 'divider'>('pavese-compare', 'inset')
const divider = ref(50)
const holding = ref(false)
const shownAs = computed<Compare>(() => (holding.value ? 'before' : compare.value))
const ground = ref('#ffffff')
const arriving = useArriving(kitId, setId)
const drop = arriving.drop
const closer = ref<AssetView>()
/** The slide of a deck that is large first. */
const slide = ref(0)
function look(place: number, at = 0): void {
  slide.value = at
  closer.value = files.value?.at(place)
}
const comparing = ref(false)
// Mails that have just come are seen as several whole results at once; one press takes one, and all else refines it.
watch([arriving.arrived, set], ([arrived, now]) => {
  if (!now || arrived !== now.id) return
  arriving.arrived.value = undefined
  const first = now.reading && !now.history.undo && !Object.keys(now.rules).length
  if (first && now.channel === 'email' && !closer.value) comparing.value = true
})
const stock = ref(false)
// A handful of files is looked at large, a set of icons as a set.
const size = useLocalStorage('pavese-tile-size', 84)
const few = computed(() => (set.value?.files ?? 0) <= 8)
const side = computed(() => (!few.value ? size.value : compare.value === 'beside' ? 420 : 280))
const listed = useListed(set, ground, side)
const { wanted, trial, tried, listing, reach, files, coming } = listed
const weak = useWeak(set, ground)

watch(setId, () => {
  chosen.value = pointed.value = closer.value = undefined
  opened.value = []
  listed.all()
})

/** Rows of near-equal paints that are open. */
const opened = ref<readonly string[]>([])
const { laid, aim } = useAiming(set, setId, ours, coming)

const undoIt = () => void changes.undo.mutateAsync(undefined).catch(complain)
const redoIt = () => void changes.redo.mutateAsync(undefined).catch(complain)
useDraft(() => {
  const history = set.value?.history
  return history ? { undo: history.undo, redo: history.redo, savedAt: history.saved_at, undoIt, redoIt } : null
})
useHand(() => {
  const paint = chosen.value
  return paint ? { label: paint, put: (color) => void aim(goingAlong(set.value?.paints ?? [], paint, opened.value), { color: color.key }) } : null
})

/** A new set takes its name from the zip or folder that was dropped. */
function nameFor(files: File[]): string {
  const first = files[0]
  const folder = first && first.name.includes('/') ? first.name.split('/')[0] : undefined
  const zip = files.length === 1 && first?.name.toLowerCase().endsWith('.zip') ? first.name.slice(0, -4) : undefined
  return (zip || folder || `Set ${(kit.value?.sets.length ?? 0) + 1}`).slice(0, 120)
}

async function take(files: File[]): Promise<void> {
  try {
    let target = setId.value
    if (!target) {
      target = (await startSet(kitId.value, nameFor(files))).id
      await router.replace({ name: 'apply', params: { kitId: kitId.value, setId: target } })
    }
    await arriving.send(target, files)
  } catch (problem) {
    complain(problem)
  }
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
const { data: file } = useSetFile(set, () => closer.value?.id, listing)
const asset = computed(() => (file.value && file.value.file.id === closer.value?.id ? file.value.file : closer.value))

/** Steps to the file before or behind; those that are asked for before it is known which that is are made up for. */
let ahead = 0
function turn(by: number): void {
  ahead += by
  const here = file.value
  if (!closer.value || here?.file.id !== closer.value.id || !ahead) return
  closer.value = ahead < 0 ? here.before : here.behind
  ahead -= Math.sign(ahead)
}
watch(file, () => turn(0))
watch(closer, (now) => {
  if (!now) ahead = 0
})

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
</script>

<template>
  <FileDrop
    v-slot="{ pick }"
    :accept="accept"
    :hint="`Drop ${formats?.words ?? 'files'}, folders or a zip to add them${set ? ` to ${set.name}` : ''}`"
    @files="take"
  >
    <SetBar v-if="kit?.sets.length" :kit="kit" :set-id="setId" view="apply" @start="start" />
    <ProblemNote v-if="error" :error="error" @again="refetch()" />
    <EmptyState v-else-if="kit && !setId" title="Make files ours">
      Drop {{ formats?.words }} here, up to {{ formats?.set_files.toLocaleString('en') }} in a set, or a zip of them. Their colors are listed once, across
      all files, and sent to steps of the kit.
      <template #actions><v-btn class="strong" @click="pick()">Choose files…</v-btn></template>
    </EmptyState>
    <div v-else-if="set && kit && ours" class="body">
      <section class="paints" aria-labelledby="set-title">
        <header>
          <h1 id="set-title">{{ set.name }}</h1>
          <p class="muted">{{ set.files }} {{ set.files === 1 ? 'file' : 'files' }}, {{ set.paints.length }} paints</p>
        </header>
        <PlanHead
          v-if="set.paints.length"
          v-model:more="more"
          :kit="ours"
          :set="set"
          :ground="ground"
          @compare="comparing = true"
          @see="wanted = $event"
          @point="pointed = $event"
          @only="listed.filter.value = $event"
        />
        <p v-if="drop?.running && set.files" class="hint">
          Files are on their way, in the colors they came in. Their paints are planned once all of them are here.
        </p>
        <p v-else-if="set.paints.length" class="hint muted">
          Point at a paint to see where it stands. Choose it, then press a color of the kit above, one of the pennants.
        </p>
        <PaintList
          v-model:chosen="chosen"
          v-model:pointed="pointed"
          v-model:opened="opened"
          :kit="ours"
          :paints="set.paints"
          @aim="aim"
          @split="(paint, part) => changes.split.mutateAsync({ paint, part }).catch(complain)"
          @join="(key) => changes.join.mutateAsync({ key }).catch(complain)"
          @keep-selector="(selector) => changes.keepSelector.mutateAsync({ selector, kept: true }).catch(complain)"
        />
        <footer>
          <PlanAnew :set="set" />
          <v-btn v-if="!sure" @click="sure = true">{{ set.original ? 'Remove variant…' : 'Remove set…' }}</v-btn>
          <template v-else>
            <v-btn class="strong" @click="remove">
              {{ set.original ? 'Remove the variant' : `Remove ${set.files} files` }}
            </v-btn>
            <v-btn @click="sure = false">No</v-btn>
          </template>
        </footer>
      </section>

      <PlanSettings v-if="more && set.paints.length" :kit="ours" :set="set" @close="more = false" />

      <section class="work" aria-label="Files">
        <CompareBar v-model:ground="ground" v-model:compare="compare" v-model:divider="divider" v-model:holding="holding" :kit="kit">
          <v-btn v-hint="set.history.undo ?? ''" :disabled="!set.history.undo" @click="undoIt">Undo</v-btn>
          <v-btn v-hint="set.history.redo ?? ''" :disabled="!set.history.redo" @click="redoIt">Redo</v-btn>
          <v-btn @click="pick()">Add files…</v-btn>
          <v-btn
            class="strong"
            :disabled="!set.files"
            :to="{ name: 'hand-over', params: { kitId, setId: set.id } }"
          >
            Hand over {{ set.handed }}
          </v-btn>
        </CompareBar>
        <FileSieve
          v-if="set.files"
          v-model:wanted="listed.wanted.value"
          v-model:filter="listed.filter.value"
          v-model:order="listed.order.value"
          v-model:trial="listed.trial.value"
          v-model:size="size"
          :kit="ours"
          :set="set"
          :few="few"
          :weak="weak"
          :which="listed.which.value"
          :narrowed="listed.narrowed.value"
          :found="listed.found.value"
          @stock="stock = true"
        />
        <p v-if="trial && tried" class="tried" role="status">
          Seen in {{ tried.kit }}<template v-if="trial.edition">, edition {{ trial.edition }}</template>: {{ tried.figures.kit }} % of the kit,
          contrast {{ tried.figures.contrast }}, still distinct {{ tried.figures.distinct }}. Nothing is kept until you add it as a variant.
        </p>
        <DropNote v-if="drop" :drop="drop" @close="arriving.close()" />
        <p v-if="!set.files && drop?.running" class="coming muted">The first files are seen here in a moment.</p>
        <EmptyState v-else-if="!set.files" title="This set is empty">
          Drop {{ formats?.words }}, folders or a zip anywhere on this screen.
          <template #actions>
            <v-btn class="strong" @click="pick()">Choose files…</v-btn>
            <v-btn @click="stock = true">Search the stock library…</v-btn>
          </template>
        </EmptyState>
        <EmptyState v-else-if="listed.found.value === 0" title="No file fits">
          {{ set.files === 1 ? 'One file is' : `${set.files} files are` }} in the set; none of them fits what is chosen above.
          <template #actions><v-btn class="strong" @click="listed.widen()">Show all files</v-btn></template>
        </EmptyState>
        <TileGrid
          v-else-if="files"
          :files="files"
          :trial="tried ? trial : undefined"
          :spots="spots"
          :compare="shownAs"
          :ground="ground"
          :divider="divider"
          :side="side"
          :high="few ? side * 0.68 : side"
          :laid="laid"
          :decks="set?.channel === 'slides'"
          @reach="reach = $event"
          @open="look"
        />
      </section>
    </div>

    <CloserLook
      v-if="set && asset"
      v-model:spot="pointed"
      v-model:slide="slide"
      :model-value="true"
      :kit="ours!"
      :set="set"
      :asset="asset"
      :file="file?.file.id === asset.id ? file : undefined"
      :ground="ground"
      @update:model-value="closer = undefined"
      @turn="turn"
      @remove="removeAsset"
    />
    <StockShelf v-if="set && kit" v-model="stock" :kit="kit" :set="set" />
    <OtherPlans v-if="set" v-model="comparing" :set="set" :ground="ground" />
  </FileDrop>
</template>

<style scoped>
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
  flex-wrap: wrap;
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
/* What leads on stays in reach in a low window, too. */
.work > .empty {
  min-height: 0;
  margin-block: 16px;
  overflow-y: auto;
}
.coming {
  padding: 16px;
}
.tried {
  padding: 0 16px 6px;
}
</style>
