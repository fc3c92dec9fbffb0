<script setup lang="ts">
import { computed, ref, watch } from 'vue'

import type { SetView } from '@/api/client'
import { besideUrl, useFetchedPictures, usePicturesInside } from '@/api/inside'
import { useSetChanges } from '@/api/sets'
import type { components } from '@/api/schema'
import { complain, say } from '@/frame/notices'
import SteadyImage from '@/parts/SteadyImage.vue'
import NamedFiles from './NamedFiles.vue'

type Inside = components['schemas']['InsideView']
type Way = components['schemas']['Way']

/** Pictures inside of the files of a set: those that stand in a box of their own on what is another color now, logos and
    other drawn ones in decks, those whose colors go by the plan, and what can be made of them; and those that lie on the
    web. */
const props = defineProps<{ set: SetView }>()
const emit = defineEmits<{ see: [file: string] }>()
const { data, error } = usePicturesInside(() => props.set)
watch(error, (problem) => problem && complain(problem))
const changes = useSetChanges(() => props.set.id)
const open = ref(false)

const WORDS: Record<Way, string> = { clear: 'clear its ground', ground: 'lay the ground under it', logo: 'put the kit’s logo there' }
const listed = computed(() => data.value?.pictures ?? [])
const head = computed(() => {
  const { standing = 0, in_plan = 0, pictures = [] } = data.value ?? {}
  const inside = `${pictures.length} ${pictures.length === 1 ? 'picture' : 'pictures'} inside`
  const told = [data.value?.ruled && 'all keep their colors', in_plan && `${in_plan} by the plan`, standing && `${standing} in a box that shows`].filter(Boolean)
  return [inside, told.join(', ')].filter(Boolean).join(': ')
})
const told = (one: Inside) => {
  const on = one.grounds.length ? ` on ${one.grounds.join(', ')}` : ''
  const places = one.places > one.of_files ? ` at ${one.places} places` : ''
  if (!one.way && one.mended) return `Mended at ${one.mended} of ${one.places} places.`
  if (one.way === 'logo') return `The kit’s logo is in its place${places}.`
  if (!one.box) return on || places ? `It stands${on}${places}.` : ''
  if (one.way === 'clear') return `Its ground of ${one.box} is clear.`
  if (one.way === 'ground') return one.stands ? `What was laid under it is no longer what it stands on${on}.` : `It stands${on}, as what is below it.`
  if (!one.stands) return `Its ground of ${one.box} is that of what is below it.`
  return `Its ground of ${one.box} shows${on}${one.before ? ', as it did before' : ''}.`
}

const remote = computed(() => data.value?.remote ?? [])
const missing = computed(() => remote.value.reduce((sum, one) => sum + one.missing, 0))
const fetching = useFetchedPictures(() => props.set.id)
/** Brings in what lies at one place; what did not come is told with the first reason. */
async function bringIn(host: string): Promise<void> {
  try {
    const { fetched, failed, reasons } = await fetching.mutateAsync([host])
    say(`${fetched} ${fetched === 1 ? 'picture is' : 'pictures are'} here${failed ? `, ${failed} could not be had: ${reasons[0]}` : ''}`)
  } catch (problem) {
    complain(problem)
  }
}

function keep({ key, kept }: Inside): void {
  changes.keepPicture.mutateAsync({ key, kept: !kept }).catch(complain)
}

function take({ key, way }: Inside, wanted: Way): void {
  changes.mend.mutateAsync({ key, way: wanted === way ? null : wanted }).catch(complain)
}
</script>

<template>
  <div v-if="listed.length || missing" class="boxed">
    <p v-if="missing" class="small remote">
      {{ missing }} {{ missing === 1 ? 'picture lies' : 'pictures lie' }} on the web; drop them here, or bring them in from
      <v-btn v-for="one in remote" :key="one.host" :disabled="fetching.isPending.value" @click="bringIn(one.host)">
        {{ one.host }} ({{ one.missing }})
      </v-btn>
      <span v-if="fetching.isPending.value" class="muted" role="status">Bringing them in…</span>
    </p>
    <button v-if="listed.length" type="button" class="link small" :aria-expanded="open" @click="open = !open">{{ head }}</button>
    <ul v-if="open && listed.length" class="found-list scrolls" aria-label="Pictures inside" tabindex="0">
      <li v-for="one in listed" :key="one.key">
        <span class="shown" :style="{ background: one.grounds[0] }">
          <SteadyImage :src="besideUrl(one, set.id)" :alt="one.title" />
        </span>
        <div>
          <p class="what"><strong>{{ one.title }}</strong></p>
          <p class="small">
            {{ told(one) }}
            <template v-if="one.kept !== null">{{ one.kept ? 'It keeps its colors.' : 'Its colors go by the plan.' }}</template>
          </p>
          <NamedFiles :files="one.files" :of="one.of_files" @see="emit('see', $event)" />
          <p class="remedies">
            <button v-if="one.kept !== null" type="button" class="remedy" :aria-pressed="one.kept" @click="keep(one)">
              keep its colors
            </button>
            <button
              v-for="way in one.ways"
              :key="way"
              type="button"
              class="remedy"
              :aria-pressed="one.way === way"
              @click="take(one, way)"
            >
              {{ WORDS[way] }}
            </button>
          </p>
        </div>
      </li>
    </ul>
  </div>
</template>

<style scoped>
.remote {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 6px;
  align-items: center;
  margin-bottom: 4px;
}
li {
  display: grid;
  grid-template-columns: 64px minmax(0, 1fr);
  gap: 10px;
}
.shown {
  display: flex;
  align-items: center;
  justify-content: center;
  width: 64px;
  height: 48px;
  padding: 4px;
  border: 1px solid var(--hair);
}
.what {
  font-size: 13px;
  overflow-wrap: anywhere;
}
</style>
