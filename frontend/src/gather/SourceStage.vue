<script setup lang="ts">
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue'
import { useRouter } from 'vue-router'
import type { VBtn } from 'vuetify/components'

import type { KitView, Reach, SourceView, Spot } from '@/api/client'
import { removeSource, spotAt, useSource, useSourceChanges } from '@/api/sources'
import { useDraft } from '@/frame/history'
import { complain, say } from '@/frame/notices'
import BoxNote from '@/parts/BoxNote.vue'
import ChoiceRow from '@/parts/ChoiceRow.vue'
import { useLatest } from '@/parts/latest'
import { plain } from '@/parts/picking'
import PickOne from '@/parts/PickOne.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import SavedField from '@/parts/SavedField.vue'
import TickBox from '@/parts/TickBox.vue'
import BoardLayout from './BoardLayout.vue'
import CandidatePanel from './CandidatePanel.vue'
import { type Laid, laid, told, whole } from './laying'
import LoupeBar from './LoupeBar.vue'
import PageUses from './PageUses.vue'
import PicturesPanel from './PicturesPanel.vue'
import PinnedPicture from './PinnedPicture.vue'

/** One source: its picture with pins, how its colors are found, and what it holds. */
const props = defineProps<{ kit: KitView; sourceId: string }>()
const router = useRouter()
const { data: source, error, refetch } = useSource(
  () => props.sourceId,
  () => props.kit.history.revision,
)
const changes = useSourceChanges(() => props.sourceId)

const LEANS = ['balanced', 'vivid', 'soft', 'light', 'dark'] as const
const COUNTS = plain([3, 4, 5, 6, 7, 8, 9, 10, 11, 12])
type Panel = 'colors' | 'pictures' | 'page'
const panel = ref<Panel>('colors')
const panels = computed(() => [
  { value: 'colors' as const, label: 'colors' },
  ...(source.value?.page ? [{ value: 'page' as const, label: 'page' }] : []),
  { value: 'pictures' as const, label: source.value && source.value.pictures.length > 1 ? 'pictures' : 'picture' },
])

const chosen = ref<number>()
const reach = ref<Reach>(1)
const spot = ref<Spot>()
const pin = computed(() => source.value?.pins.find((one) => one.number === chosen.value))
watch(pin, (now) => now && (reach.value = now.reach))

const look = useLatest(
  (at: { x: number; y: number }, signal: AbortSignal) => spotAt(props.sourceId, at.x, at.y, reach.value, signal),
  (found) => (spot.value = found),
  complain,
)

/** Shows what stands at a place, or, pointing nowhere, at the chosen pin. */
function point(at: { x: number; y: number } | undefined): void {
  const where = at ?? pin.value
  if (where) look.put({ x: where.x, y: where.y })
}
watch([pin, () => source.value?.fingerprint, reach], () => point(undefined), { immediate: true })

function find(change: Partial<SourceView['looking']>): void {
  if (source.value) changes.find.mutateAsync({ ...source.value.looking, ...change }).catch(complain)
}

async function setPin(at: { x: number; y: number }): Promise<void> {
  await changes.setPin.mutateAsync({ ...at, reach: reach.value }).then((now) => (chosen.value = now.pins.length), complain)
}

function movePin(number: number, at: { x: number; y: number }): void {
  changes.movePin.mutateAsync({ pin: number, ...at }).catch(complain)
}

function setReach(wanted: Reach): void {
  reach.value = wanted
  if (pin.value && pin.value.reach !== wanted)
    changes.movePin.mutateAsync({ pin: pin.value.number, reach: wanted }).catch(complain)
}

function removePin(number: number): void {
  changes.removePin.mutateAsync(number).then((now) => {
    chosen.value = now.pins.length ? Math.min(number, now.pins.length) : undefined
  }, complain)
}

function renumber(to: number): void {
  if (pin.value) changes.movePin.mutateAsync({ pin: pin.value.number, number: to }).then(() => (chosen.value = to), complain)
}

/** Whether the board is being laid by hand, and the picture that is at hand. */
const laying = ref(false)
const atHand = ref<string>()
const [lays, done] = [useTemplateRef<VBtn>('lays'), useTemplateRef<VBtn>('done')]
async function layByHand(now: boolean): Promise<void> {
  laying.value = now
  await nextTick()
  ;((now ? done : lays).value?.$el as HTMLElement | undefined)?.focus()
}
const isBoard = computed(() => source.value?.kind === 'board')
const inHand = computed(() => source.value?.pictures.find((picture) => picture.id === atHand.value))
const isCut = computed(() => {
  const { part } = inHand.value ?? {}
  return !!part && (part.left > 0 || part.top > 0 || part.right < 1 || part.bottom < 1)
})

function lay(picture: string, place: Laid): void {
  changes.lay.mutateAsync({ picture, ...told(place) }).catch(complain)
}
function showWhole(): void {
  if (inHand.value) lay(inHand.value.id, whole(laid(inHand.value), source.value!.width))
}
/** Later pictures lie over earlier ones. */
function layOver(over: boolean): void {
  const rest = source.value!.pictures.map((picture) => picture.id).filter((id) => id !== atHand.value)
  changes.order.mutateAsync(over ? [...rest, atHand.value!] : [atHand.value!, ...rest]).catch(complain)
}

const sure = ref(false)
async function remove(): Promise<void> {
  const name = source.value?.name
  try {
    await removeSource(props.sourceId)
    say(`${name} removed; its colors in the kit stay`)
    await router.push({ name: 'gather', params: { kitId: props.kit.id } })
  } catch (problem) {
    complain(problem)
  }
}

const undoIt = () => void changes.undo.mutateAsync(undefined).catch(complain)
const redoIt = () => void changes.redo.mutateAsync(undefined).catch(complain)
useDraft(() => {
  const history = source.value?.history
  return history ? { undo: history.undo, redo: history.redo, savedAt: history.saved_at, undoIt, redoIt } : null
})
</script>

<template>
  <ProblemNote v-if="error" :error="error" @again="refetch()" />
  <div v-else-if="source" class="stage">
    <section class="looking" :aria-label="source.name">
      <header>
        <h1 class="unseen">{{ source.name }}</h1>
        <SavedField
          class="name"
          :value="source.name"
          label="Name of the source"
          :longest="120"
          required
          @save="(name, was) => changes.rename.mutateAsync({ name, was }).catch(complain)"
        />
        <span class="gap" />
        <v-btn v-hint="source.history.undo ?? ''" :disabled="!source.history.undo" @click="undoIt">Undo</v-btn>
        <v-btn v-hint="source.history.redo ?? ''" :disabled="!source.history.redo" @click="redoIt">Redo</v-btn>
        <v-menu attach location="bottom end">
          <template #activator="{ props: open }"><v-btn v-bind="open">Save…</v-btn></template>
          <v-list aria-label="Save as" role="group">
            <v-list-item tabindex="0" :href="`/api/sources/${source.id}/palette.png`" title="With its palette, PNG" />
            <v-list-item tabindex="0" :href="`/api/sources/${source.id}/palette.pdf`" title="With its palette, PDF" />
            <v-list-item tabindex="0" :href="`/api/sources/${source.id}/picture.png`" title="The picture alone, PNG" />
          </v-list>
        </v-menu>
        <v-btn v-if="!sure" @click="sure = true">Remove…</v-btn>
        <template v-else>
          <v-btn class="strong" @click="remove">Remove it</v-btn>
          <v-btn @click="sure = false">No</v-btn>
        </template>
      </header>
      <div v-if="laying && isBoard" class="finding" role="group" aria-label="Laying the board">
        <v-btn ref="done" class="strong" @click="layByHand(false)">Done</v-btn>
        <v-btn :disabled="!inHand || !source.by_hand" @click="layOver(true)">Over the others</v-btn>
        <v-btn :disabled="!inHand || !source.by_hand" @click="layOver(false)">Under them</v-btn>
        <v-btn :disabled="!isCut" @click="showWhole">Show all of it</v-btn>
        <v-btn :disabled="!source.by_hand" @click="changes.inRows.mutateAsync(undefined).catch(complain)">Set in rows again</v-btn>
        <span class="muted small">Drag a picture; size it at its corner, cut it at its edges.</span>
      </div>
      <div v-else class="finding" role="group" aria-label="Finding colors">
        <span>colors</span>
        <PickOne class="many" label="Number of colors" :model-value="source.looking.count" :options="COUNTS" @update:model-value="(count) => find({ count })" />
        <span>lean</span>
        <PickOne class="lean" label="Lean" :model-value="source.looking.lean" :options="plain(LEANS)" @update:model-value="(lean) => find({ lean })" />
        <TickBox :model-value="source.looking.leave_out_ground" @update:model-value="(out) => find({ leave_out_ground: out })">
          leave out the ground
        </TickBox>
        <v-btn v-if="!source.pins.length" @click="find({})">Find colors</v-btn>
        <v-btn v-if="isBoard" ref="lays" @click="layByHand(true)">Lay by hand…</v-btn>
        <span v-if="changes.find.isPending.value" class="muted" role="status">looking…</span>
        <span v-else-if="source.note" class="muted small">{{ source.note }}</span>
      </div>
      <BoxNote
        v-if="source.kind === 'picture' && source.pictures[0]?.box"
        class="boxed"
        :box="source.pictures[0].box"
        :name="source.pictures[0].name"
        @free="(inside) => changes.free.mutateAsync({ picture: source!.pictures[0]!.id, inside }).catch(complain)"
      />
      <BoardLayout v-if="laying && isBoard" v-model:chosen="atHand" :source="source" @lay="lay" />
      <PinnedPicture
        v-else
        v-model:chosen="chosen"
        :source="source"
        @point="point"
        @set="setPin"
        @move="movePin"
        @remove="removePin"
      />
      <LoupeBar
        v-if="!(laying && isBoard)"
        :spot="spot"
        :reach="reach"
        :pin="pin"
        :count="source.pins.length"
        @reach="setReach"
        @renumber="renumber"
        @remove="pin && removePin(pin.number)"
      />
    </section>
    <div class="holds">
      <ChoiceRow v-model="panel" label="What the source holds" :options="panels" />
      <CandidatePanel
        v-show="panel === 'colors'"
        v-model:chosen="chosen"
        :kit="kit"
        :found="source.candidates"
        :note="source.page?.notes.join(' ')"
        :verb="source.kind === 'page' ? 'in use' : 'found'"
      >
        <template #nothing>
          <p v-if="source.kind === 'page'">The page names no colors. Click on its picture to set pins.</p>
          <p v-else>No color yet. Click on the picture to set a pin, or find colors with the fields above it.</p>
        </template>
      </CandidatePanel>
      <PageUses v-if="panel === 'page' && source.page" :page="source.page" />
      <PicturesPanel v-if="panel === 'pictures'" :kit-id="kit.id" :source="source" :changes="changes" />
    </div>
  </div>
</template>

<style scoped>
.stage {
  display: flex;
  flex: 1;
  min-height: 0;
}
.looking {
  display: flex;
  flex-direction: column;
  flex: 1;
  min-width: 0;
  min-height: 0;
}
header,
.finding {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 10px;
  align-items: center;
  padding: 10px 14px 0;
}
header {
  gap: 6px;
}
.finding {
  min-height: 36px;
  padding-top: 6px;
  font-size: 13px;
}
.many {
  flex: 0 0 66px;
}
.lean {
  flex: 0 0 106px;
}
.name {
  flex: 1 1 120px;
  min-width: 100px;
  max-width: 300px;
  margin-left: -7px;
}
.name:not(:hover, :focus-within) :deep(.v-field) {
  background: transparent;

  .v-field__outline {
    color: transparent;
  }
}
.name :deep(input) {
  font: 700 18px 'Commissioner Variable', sans-serif;
  text-overflow: ellipsis;
}
.gap {
  flex: 1;
}
.holds {
  display: flex;
  flex-direction: column;
  flex: none;
  width: min(440px, 41%);
  border-left: 1px solid var(--rule);
  min-height: 0;
}
.holds > :deep(.choices) {
  align-self: start;
  margin: 10px 14px 0;
}
.holds > :deep(.found) {
  flex: 1;
}
</style>
