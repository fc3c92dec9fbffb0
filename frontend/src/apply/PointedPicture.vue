<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core'
import { computed, ref, useTemplateRef, watch } from 'vue'

import type { AssetView, KitView, SetView } from '@/api/client'
import { photographUrl, thingUrl, usePointed } from '@/api/pointing'
import { pictureUrl } from '@/api/files'
import { useSetChanges } from '@/api/sets'
import { useHand } from '@/frame/hand'
import { complain } from '@/frame/notices'
import ChoiceRow from '@/parts/ChoiceRow.vue'
import SteadyImage from '@/parts/SteadyImage.vue'
import ActPanel from './ActPanel.vue'
import { useActs } from './acts'
import HeadlinePanel from './HeadlinePanel.vue'
import PartsPanel from './PartsPanel.vue'
import PictureFrame from './PictureFrame.vue'
import { between, type Frame, inPicture, type Part, type Place, type Press, type Stroke, type Thing } from './pointing'
import ThingPanel from './ThingPanel.vue'
import ThingPins from './ThingPins.vue'

/** A picture in which one points: at things that get a color of the kit, at parts that go their own way, and at where a
    headline will stand; with the tones of what is a photograph beside it. */
const props = defineProps<{ kit: KitView; set: SetView; asset: AssetView }>()
const changes = useSetChanges(() => props.set.id)
const acts = useActs()
const tones = computed(() => acts.value.find((act) => act.key === 'photograph'))
const { data, error } = usePointed(() => props.set, () => props.asset)
watch(error, (problem) => problem && complain(problem))

const [LARGE, COVER] = [900, 640]
const MOST_PARTS = 12
type What = 'things' | 'parts' | 'headline' | 'photograph'
const WHATS: { value: What; label: string }[] = [
  { value: 'things', label: 'things' },
  { value: 'parts', label: 'parts' },
  { value: 'headline', label: 'a headline' },
  { value: 'photograph', label: 'tones' },
]
const what = ref<What>('things')
const things = computed(() => data.value?.things ?? [])

/** The thing at hand: one of them by its number, or one that has no color yet. */
const number = ref<number>()
const thing = ref<Thing>()
const covered = ref(true)
const press = ref<Press>('place')
const width = ref(4)

function take(at: number | undefined): void {
  number.value = at
  thing.value = at === undefined ? undefined : structuredClone(toPlain(things.value[at]!.thing))
  covered.value = at === undefined
  press.value = 'place'
}
const toPlain = (one: Thing): Thing => JSON.parse(JSON.stringify(one)) as Thing

function put(list: Thing[]): Promise<unknown> {
  return changes.things.mutateAsync({ asset: props.asset.id, objects: list }).catch(complain)
}
async function save(): Promise<void> {
  const one = thing.value
  if (!one?.color) return
  const list = things.value.map((other) => other.thing)
  const at = number.value ?? list.length
  list[at] = one
  number.value = at
  await put(list)
}
const saveSoon = useDebounceFn(save, 350)

/** Another setting, place or stroke: seen at once as what belongs to it, and kept once the hand rests. */
function change(to: Partial<Thing>): void {
  if (!thing.value) return
  thing.value = { ...thing.value, ...to }
  if (to.color) {
    covered.value = false
    void save()
  } else void saveSoon()
}
function remove(): void {
  const at = number.value
  take(undefined)
  if (at !== undefined) void put(things.value.map((one) => one.thing).filter((_, i) => i !== at))
}
function point(place: Place): void {
  if (!thing.value) {
    covered.value = true
    thing.value = { spots: [place], color: '', hue: 22, faint: 60, light: 40, together: true, strokes: [] }
  } else change({ spots: [...thing.value.spots, place] })
}
function moved(at: number, place: Place | undefined): void {
  if (!thing.value) return
  const spots = thing.value.spots.flatMap((one, i) => (i !== at ? [one] : place ? [place] : []))
  if (spots.length) change({ spots })
  else remove()
}
const stroked = (stroke: Stroke) => change({ strokes: [...(thing.value?.strokes ?? []), stroke] })

useHand(() => {
  const one = thing.value
  return one && what.value === 'things' ? { label: `the thing in ${props.asset.name}`, put: (color) => change({ color: `${color.key}.base` }) } : null
})

const paper = useTemplateRef('paper')
/** The part at hand, by its number; whether what is taken for a photograph is shown. */
const parts = computed(() => data.value?.parts ?? [])
const partNumber = ref<number>()
const photographShown = ref(false)
async function putParts(list: Part[], at = partNumber.value): Promise<void> {
  await changes.parts.mutateAsync({ asset: props.asset.id, parts: list }).catch(complain)
  partNumber.value = at !== undefined && at < list.length ? at : undefined
}
function frame(region: Frame): void {
  void putParts([...parts.value, { region, way: 'what stands in it keeps its colors' }], parts.value.length)
}
/** A frame in the middle, a little farther for each that is there. */
function begin(): void {
  const at = 0.35 + 0.03 * (parts.value.length % 5)
  frame({ left: at, top: at, width: 0.25, height: 0.25 })
}
/** A frame that is being drawn, from where to where. */
const corner = ref<Place>()
const drawn = ref<Frame>()
function startFrame(event: PointerEvent): void {
  if (what.value !== 'parts' || event.button !== 0 || parts.value.length >= MOST_PARTS) return
  paper.value!.setPointerCapture(event.pointerId)
  corner.value = inPicture(event, paper.value!)
}
function drawFrame(event: PointerEvent): void {
  if (corner.value) drawn.value = between(corner.value, inPicture(event, paper.value!))
}
function endFrame(): void {
  if (drawn.value) frame(drawn.value)
  corner.value = drawn.value = undefined
}
const putRegion = (region: Frame, number: number) => putParts(parts.value.map((one, at) => (at === number ? { ...one, region } : one)), number)

function clicked(event: MouseEvent): void {
  if (what.value === 'things' && press.value === 'place') point(inPicture(event, paper.value!))
}
</script>

<template>
  <div class="pointed">
    <div class="left">
      <div
        ref="paper"
        class="paper"
        :class="{ points: what === 'things' || what === 'parts' }"
        data-testid="pointed"
        @click="clicked"
        @dragstart.prevent
        @pointerdown="startFrame"
        @pointermove="drawFrame"
        @pointerup="endFrame"
        @pointercancel="corner = drawn = undefined"
      >
        <SteadyImage :src="pictureUrl(asset, { size: LARGE, of: set.id })" :alt="`${asset.name} after`" />
        <template v-if="what === 'things' && thing">
          <SteadyImage v-if="covered" class="cover" :src="thingUrl(asset.id, thing, COVER)" alt="What belongs to the thing" />
          <ThingPins :thing="thing" :press="press" :width="width / 100" :paper="paper" @move="moved" @stroke="stroked" />
        </template>
        <template v-if="what === 'parts'">
          <SteadyImage v-if="photographShown" class="cover" :src="photographUrl(asset.id, parts, COVER)" alt="What is taken for a photograph" />
          <PictureFrame
            v-for="(one, at) in parts"
            :key="at"
            :class="{ resting: at !== partNumber }"
            :label="`Part ${at + 1}`"
            :region="one.region"
            :paper="paper"
            @focusin="partNumber = at"
            @pointerdown.stop="partNumber = at"
            @put="putRegion($event, at)"
          />
          <PictureFrame v-if="drawn" label="A new part" :region="drawn" :paper="paper" />
        </template>
        <PictureFrame
          v-if="what === 'headline' && data?.headline"
          label="Where the headline stands"
          :region="data.headline.region!"
          :paper="paper"
          @put="(region) => changes.headline.mutateAsync({ asset: asset.id, headline: { ...data!.headline!, region } }).catch(complain)"
        />
      </div>
    </div>
    <div class="own scrolls">
      <ChoiceRow v-model="what" label="What is pointed at" :options="WHATS" />
      <ThingPanel
        v-if="what === 'things'"
        v-model:covered="covered"
        v-model:press="press"
        v-model:width="width"
        :kit="kit"
        :things="things"
        :thing="thing"
        :number="number"
        @take="take"
        @point="point"
        @change="change"
        @remove="remove"
      />
      <ActPanel
        v-else-if="what === 'photograph' && tones"
        :act="tones"
        :kit="kit"
        :settings="asset.acts[tones.key] ?? undefined"
        @put="(settings) => changes.act.mutateAsync({ key: tones!.key, settings, names: [asset.name] }).catch(complain)"
      />
      <PartsPanel
        v-else-if="what === 'parts'"
        v-model:covered="photographShown"
        :set="set"
        :asset="asset"
        :parts="parts"
        :without-logo="data?.without_logo ?? []"
        :number="partNumber"
        :most="MOST_PARTS"
        @take="partNumber = $event"
        @put="putParts"
        @begin="begin"
      />
      <HeadlinePanel v-else :set="set" :headline="data?.headline" :room="data?.headroom" @put="(headline) => changes.headline.mutateAsync({ asset: asset.id, headline }).catch(complain)" />
    </div>
  </div>
</template>

<style scoped>
.pointed {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 300px;
  gap: 16px;
  min-height: 0;
}
.left {
  display: flex;
  align-items: flex-start;
  justify-content: center;
  min-width: 0;
}
.paper {
  position: relative;
  width: fit-content;
  border: 1px solid var(--hair);
  line-height: 0;
}
.paper.points {
  cursor: crosshair;
}
.paper :deep(img) {
  max-width: 100%;
  max-height: 62vh;
  min-width: 240px;
  user-select: none;
}
.paper > .cover {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  max-height: none;
  pointer-events: none;
}
.resting {
  border-color: #fffb;
  outline-color: #0008;
}
.own {
  display: flex;
  flex-direction: column;
  gap: 8px;
  align-items: stretch;
  padding-left: 16px;
  min-height: 320px;
  max-height: 62vh;
  border-left: 1px solid var(--rule);
}
.own :deep(.field) {
  flex: none;
}
.own :deep(.choices) {
  align-self: start;
}
</style>
