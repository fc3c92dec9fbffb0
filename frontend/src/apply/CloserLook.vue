<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { computed, ref, watch } from 'vue'

import type { AssetView, FileView, KitView, SetView } from '@/api/client'
import { pictureUrl, sourceOf } from '@/api/files'
import { useGroundsAndInks } from '@/api/plans'
import { useSetChanges } from '@/api/sets'
import { useHand } from '@/frame/hand'
import { complain, say } from '@/frame/notices'
import ChoiceRow from '@/parts/ChoiceRow.vue'
import SteadyImage from '@/parts/SteadyImage.vue'
import TextReadings from '@/parts/TextReadings.vue'
import ActFields from './ActFields.vue'
import FilePictures from './FilePictures.vue'
import FileRemarks from './FileRemarks.vue'
import { ofFile, useActs, type Settings } from './acts'
import { useHow } from './looking'
import PaintList from './PaintList.vue'
import PaintPlaces from './PaintPlaces.vue'
import PointedPicture from './PointedPicture.vue'
import PartGround from './PartGround.vue'
import { usePressed } from './pressed'
import SampleValues from './SampleValues.vue'
import SlideStrip from './SlideStrip.vue'

/** One file at large: before and after, on every ground and in every size it will be seen in, and its own choices, once
    they have come with `file`. */
const props = defineProps<{ kit: KitView; set: SetView; asset: AssetView; file: FileView | undefined; ground: string }>()
const open = defineModel<boolean>({ required: true })
const spot = defineModel<string | undefined>('spot')
const emit = defineEmits<{ turn: [by: number]; remove: [] }>()

const changes = useSetChanges(() => props.set.id)
const { views, how } = useHow(() => props.asset)
const chosen = ref<string>()
/** The faces that are not here, and what pictures are set in instead. */
const faces = computed(() => (props.file?.faces ?? []).map((face) => `${face.named} is shown in ${face.set_in}`).join(', '))
const { paint: told, element, alone: forOne, press } = usePressed(() => props.set.id, () => props.asset)
watch(() => props.asset.id, () => (chosen.value = undefined))

/** The page whose sites alone what is chosen counts for. */
const page = ref<string>()
watch(() => props.asset.id, () => (page.value = undefined))
const inPage = computed(() => props.file?.pages.find((one) => one.selector === page.value))
const within = computed(() => (forOne.value ? element.value : inPage.value))

const counts = computed(() => {
  if (forOne.value && element.value) return `${element.value.title} in this file`
  return inPage.value ? `“${inPage.value.title}” in this file` : 'this file'
})

/** The paints of the file, or of the page: there, those that were chosen for it stand for themselves. */
const paints = computed(() => {
  const all = props.file?.paints ?? []
  const here = within.value
  if (!here) return all
  const own = new Set(all.filter((paint) => paint.part === here.selector).map((paint) => paint.key.split('@')[0]!))
  return all.filter(
    (paint) => paint.part === here.selector || (!paint.part && here.paints.includes(paint.key) && !own.has(paint.key)),
  )
})
/** A deck is looked at slide by slide: the one that is large. */
const slides = computed(() => props.asset.can.includes('slides'))
const slide = defineModel<number>('slide', { default: 0 })
watch(() => props.asset.id, () => (slide.value = 0))
/** Of a mail that was sent in parts, the one that is chosen. */
const part = computed(() => props.file?.pages.findIndex((one) => one.kind === 'part' && one.selector === page.value) ?? -1)
const shownPage = computed(() => (slides.value ? slide.value : part.value < 0 ? undefined : part.value))
/** What stands behind the slides of a deck; drawn once it is opened. */
const behind = computed(() => {
  const rest = (props.file?.pages ?? []).map(({ title, kind }, at) => ({ at, title, kind })).slice(props.asset.slides)
  const [notes, above] = [rest.filter((one) => one.kind === 'notes'), rest.filter((one) => one.kind !== 'notes')]
  return [
    { label: 'Masters and layouts', pages: above },
    { label: 'Notes', pages: notes },
  ].filter((one) => one.pages.length)
})
const unfolded = ref<string[]>([])
watch(() => props.asset.id, () => (unfolded.value = []))
function unfold(label: string, event: Event): void {
  if ((event.target as HTMLDetailsElement).open) unfolded.value = [...unfolded.value, label]
}
/** What reads worst comes first; pressing it shows its slide. */
const titles = computed(() => Object.fromEntries((props.file?.pages ?? []).map((one, at) => [one.selector, { title: one.title, at }])))
function alone(at: number): void {
  const selector = props.file?.pages[at]?.selector
  page.value = page.value === selector ? undefined : selector
  turnTo(at)
}
function turnTo(at: number): void {
  const last = (props.file?.pages.length ?? 1) - 1
  slide.value = Math.min(Math.max(at, 0), last)
}
const laidOut = computed(() => props.asset.can.includes('laid out'))
/** What its parts can stand on, where it has grounds and texts. */
const { data: grounding } = useGroundsAndInks(() => props.set, () =>
  inPage.value && (laidOut.value || slides.value) ? props.asset.name : undefined,
)
/** Whether the slide that is chosen alone stays as it came, such as one of a partner's. */
const slideKept = computed(() => grounding.value?.parts.find((one) => one.part === page.value)?.kept ?? false)
const keepSlide = () =>
  changes.groundAndInk.mutateAsync({ part: page.value, file: props.asset.name, kept: !slideKept.value }).catch(complain)

/** A paint as it is meant here: only in the page, if one is chosen. */
const here = (paint: string) => (within.value && !paint.includes('@') ? `${paint}@${within.value.selector}` : paint)
const own = (aimed: string[], to: { target?: string; color?: string }) =>
  changes.aim.mutateAsync({ paints: aimed.map(here), file: props.asset.name, ...to }).catch(complain)
const state = (change: { left_out?: boolean; kept?: boolean; reset?: boolean }) =>
  changes.states.mutateAsync({ names: [props.asset.name], reset: false, ...change }).catch(complain)

const acts = useActs()
const remedies = useActs(true)
const give = (key: string, settings: Settings) =>
  changes.act.mutateAsync({ key, settings, names: [props.asset.name] }).catch(complain)

/** Tells what stands at a spot of the picture. */
async function ask(event: MouseEvent, look: string | undefined): Promise<void> {
  await press(event, { look, page: shownPage.value })
  chosen.value = told.value?.key
}

/** From about this size on some mail programs cut a mail off. */
const LONG = 100
/** Takes the recolored mail along, and says how long it is. */
async function copySource(): Promise<void> {
  try {
    const [now, before] = await Promise.all([sourceOf(props.asset.id, { of: props.set.id }), sourceOf(props.asset.id, { side: 'before' })])
    await navigator.clipboard.writeText(now)
    const [size, was] = [now, before].map((text) => new Blob([text]).size / 1024)
    const long = size! > 0.9 * LONG ? `; some mail programs cut what is longer than about ${LONG} kB` : ''
    say(`The source is copied: ${size!.toFixed(1)} kB, ${was!.toFixed(1)} kB before${long}`)
  } catch (problem) {
    complain(problem)
  }
}

useHand(() => {
  const paint = chosen.value
  return paint ? { label: `${paint} in ${props.asset.name}`, put: (color) => void own([paint], { color: color.key }) } : null
})

// On the window: the keys count from the moment the file is seen, before the focus has moved into the dialog.
useEventListener(window, 'keydown', (event: KeyboardEvent) => {
  if ((event.target as HTMLElement).closest('input, [role=slider], [role=option]')) return
  if (event.key === 'ArrowRight') emit('turn', 1)
  if (event.key === 'ArrowLeft') emit('turn', -1)
  if (slides.value && event.key === 'PageDown') turnTo(slide.value + 1)
  if (slides.value && event.key === 'PageUp') turnTo(slide.value - 1)
})
</script>

<template>
  <v-dialog v-model="open" max-width="1160" :aria-label="asset.name">
    <section class="sheet look">
      <header>
        <h2>{{ asset.title || asset.name }}</h2>
        <span v-if="asset.title" v-hint="asset.preview" class="muted small">{{ asset.name }}</span>
        <span v-else-if="asset.traits.paints" class="muted small">
          {{ asset.traits.paints }} {{ asset.traits.paints === 1 ? 'color' : 'colors' }},
          {{ asset.traits.sites }} {{ asset.traits.sites === 1 ? 'place' : 'places' }}, {{ asset.traits.stroked ? 'strokes' : 'filled' }}
        </span>
        <span class="gap" />
        <ChoiceRow
          v-model="how"
          label="Looked at"
          :options="views"
        />
        <v-btn aria-label="The file before" @click="emit('turn', -1)">previous</v-btn>
        <v-btn aria-label="The file behind" @click="emit('turn', 1)">next</v-btn>
        <v-btn class="strong" @click="open = false">Close</v-btn>
      </header>
      <PointedPicture v-if="how === 'pointed'" :key="asset.id" :kit="kit" :set="set" :asset="asset" />
      <div v-else class="columns">
        <div class="shown">
          <FilePictures :kit="kit" :set="set" :asset="asset" :file="file" :how="how" :page="shownPage" :ground="ground" :spot="spot" @press="ask">
            <SlideStrip v-if="slides && file" v-slot="{ at }" class="strip scrolls" :asset="asset" :of="set.id" :size="160" :current="slide" :spot="spot" @see="turnTo">
              <button v-if="file.pages[at]" type="button" class="link small" :aria-pressed="page === file.pages[at]!.selector" @click="alone(at)">
                {{ page === file.pages[at]!.selector ? 'chosen alone' : 'alone' }}
              </button>
            </SlideStrip>
            <template v-if="slides">
              <details v-for="{ label, pages } in behind" :key="`${asset.id} ${label}`" class="small" @toggle="unfold(label, $event)">
                <summary>{{ label }} ({{ pages.length }})</summary>
                <SlideStrip v-if="unfolded.includes(label)" class="strip scrolls" :asset="asset" :of="set.id" :size="160" :current="slide" :others="pages" @see="turnTo" />
              </details>
            </template>
            <ul v-if="!slides && file?.pages.length" class="pages scrolls" aria-label="In this file">
              <li v-for="(one, at) in file.pages" :key="one.selector">
                <button
                  v-hint="one.title"
                  type="button"
                  :aria-pressed="page === one.selector"
                  :aria-label="`${one.title}: choose for it alone`"
                  :style="{ background: ground }"
                  @click="page = page === one.selector ? undefined : one.selector"
                >
                  <SteadyImage :src="pictureUrl(asset, { size: 48, of: set.id, page: at })" alt="" />
                </button>
              </li>
            </ul>
          </FilePictures>
          <p v-if="faces" v-hint="'The file keeps the faces that it names'" class="muted small">{{ faces }}.</p>
          <TextReadings v-if="file?.texts.length" class="scrolls readings" :texts="file.texts" :pages="slides ? titles : {}" @see="turnTo" />
          <SampleValues v-if="file && (file.codes.length || file.conditions.length)" :set="set" :codes="file.codes" :conditions="file.conditions" />
          <p v-if="told" class="remark" role="status">
            <strong>{{ told.name }}</strong> <span class="mono">{{ told.key }}</span> goes to {{ told.target_name }}: {{ told.reason }}
            <button v-if="element" type="button" class="link" :aria-pressed="forOne" @click="forOne = !forOne">
              {{ forOne ? 'chosen for this one alone' : `choose for this one alone (${element.title})` }}
            </button>
          </p>
          <FileRemarks :asset="asset" :file="file" />
          <div v-for="act in ofFile(remedies, asset)" :key="act.key" class="remark">
            <ActFields :act="act" :kit="kit" :settings="asset.acts[act.key]" @put="give(act.key, $event)" />
          </div>
        </div>
        <div class="own">
          <p class="muted small">
            {{ file && !file.paints.length ? 'It names no color itself.' : `What is chosen here counts for ${counts} only.` }}
          </p>
          <PartGround
            v-if="!forOne && inPage && laidOut"
            :set="set"
            :part="inPage.selector"
            label="Ground and ink of this part"
            :rest="set.rules.ground ? 'ground and ink as the rest' : 'every paint its own way'"
            :pairs="grounding?.pairs ?? []"
            :so="grounding?.parts.find((one) => one.part === page)"
            :file="asset.name"
          />
          <v-btn v-if="!forOne && inPage && slides" :aria-pressed="slideKept" @click="keepSlide">
            {{ slideKept ? 'Recolor this slide again' : 'Keep this slide as it came' }}
          </v-btn>
          <PaintList
            v-model:chosen="chosen"
            v-model:pointed="spot"
            label="Paints of the file"
            :kit="kit"
            :paints="paints"
            @aim="own"
            @split="(paint, part) => changes.split.mutateAsync({ paint, part, file: asset.name }).catch(complain)"
            @join="(key) => changes.join.mutateAsync({ key, file: asset.name }).catch(complain)"
            @keep-selector="(selector) => changes.keepSelector.mutateAsync({ selector, kept: true }).catch(complain)"
          />
          <PaintPlaces v-if="chosen && asset.can.includes('source')" :set="set" :asset="asset.id" :paint="chosen.split('@')[0]!" />
        </div>
      </div>
      <footer>
        <v-btn :aria-pressed="asset.left_out" @click="state({ left_out: !asset.left_out })">
          {{ asset.left_out ? 'Hand over again' : 'Leave out' }}
        </v-btn>
        <v-btn :aria-pressed="asset.kept" @click="state({ kept: !asset.kept })">
          {{ asset.kept ? 'Recolor again' : 'Keep as it came' }}
        </v-btn>
        <v-btn :disabled="!asset.exceptions && !asset.kept" @click="state({ reset: true })">Follow the set</v-btn>
        <span v-for="act in ofFile(acts, asset)" :key="act.key" class="act">
          <ActFields
            :act="act"
            :kit="kit"
            :settings="asset.acts[act.key] ?? undefined"
            :label="`${act.title} of this file`"
            short
            @put="give(act.key, $event)"
          />
        </span>
        <span class="gap" />
        <v-btn v-if="laidOut" @click="copySource">Copy source</v-btn>
        <v-btn :href="`/api/assets/${asset.id}/file?of=${set.id}`">Download recolored</v-btn>
        <v-btn :href="`/api/assets/${asset.id}/file?side=before`">Download original</v-btn>
        <v-btn @click="emit('remove')">Take out of the set</v-btn>
      </footer>
    </section>
  </v-dialog>
</template>

<style scoped>
.look {
  display: flex;
  flex-direction: column;
  gap: 10px;
  padding: 14px 16px;
  max-height: 94vh;
}
header,
footer {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
}
.gap {
  flex: 1;
}
.columns {
  display: grid;
  grid-template-columns: 1fr 300px;
  gap: 16px;
  min-height: 0;
}
.shown {
  display: grid;
  gap: 8px;
  align-content: start;
  min-width: 0;
  overflow: hidden auto;
}
.own {
  display: flex;
  flex-direction: column;
  gap: 6px;
  padding: 0 16px;
  min-height: 320px;
  max-height: 62vh;
  border-left: 1px solid var(--rule);
}
.own .field {
  flex: none;
}
.remark {
  padding-left: 10px;
  border-left: 2px solid var(--ink);
}
.pages {
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
  min-height: 62px;
  max-height: 128px;
}
.strip {
  min-height: 120px;
  max-height: 236px;
}
.pages button {
  display: flex;
  align-items: center;
  justify-content: center;
  width: 60px;
  height: 60px;
  padding: 0;
  border: 1px solid var(--rule);
  cursor: pointer;
}
.pages button[aria-pressed='true'] {
  outline: 2px solid var(--ink);
  outline-offset: -1px;
}
.readings {
  min-height: 74px;
  max-height: 112px;
}
.act {
  display: flex;
  gap: 6px;
}
</style>
