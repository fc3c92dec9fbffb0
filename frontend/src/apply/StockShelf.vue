<script setup lang="ts">
import { keepPreviousData, useQuery } from '@tanstack/vue-query'
import { refDebounced } from '@vueuse/core'
import { computed, ref, watch } from 'vue'

import { client, taken, type KitView, type SetView } from '@/api/client'
import { addFromStock } from '@/api/sets'
import { complain, say } from '@/frame/notices'
import { plain } from '@/parts/picking'
import PickOne from '@/parts/PickOne.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import SteadyImage from '@/parts/SteadyImage.vue'
import TickBox from '@/parts/TickBox.vue'

/** Drawings of a stock library: searched, seen in the kit's colors, taken singly or as a pack, rights carried along. */
const props = defineProps<{ kit: KitView; set: SetView }>()
const open = defineModel<boolean>({ required: true })

const text = ref('')
const wanted = refDebounced(text, 250)
const pack = ref('')
const colors = ref('')
const drawn = ref('')
const like = ref(false)
const ours = ref(true)
const ticked = ref<string[]>([])
const busy = ref(false)

const COLORS = [
  { value: '', title: 'any colors' },
  { value: 'one', title: 'one color' },
  { value: 'several', title: 'several colors' },
]
const MANNERS = [
  { value: '', title: 'any manner' },
  { value: 'stroke', title: 'strokes' },
  { value: 'filled', title: 'filled' },
]

const query = computed(() => ({
  text: wanted.value.trim(),
  ...(pack.value ? { pack: pack.value } : {}),
  ...(colors.value ? { several: colors.value === 'several' } : {}),
  ...(drawn.value ? { stroked: drawn.value === 'stroke' } : {}),
  ...(like.value ? { like: props.set.id } : {}),
}))
const { data, error, refetch } = useQuery({
  queryKey: computed(() => ['stock', query.value]),
  queryFn: () => taken(client.GET('/api/stock', { params: { query: query.value } })),
  enabled: open,
  placeholderData: keepPreviousData,
})
watch(open, () => (ticked.value = []))

function picture(id: string): string {
  const asked = new URLSearchParams({ id, size: '128' })
  if (ours.value) asked.set('kit_id', props.kit.id)
  return `/api/stock/picture.png?${asked}`
}

async function add(ids: string[]): Promise<void> {
  busy.value = true
  try {
    const set = await addFromStock(props.set.id, ids)
    say(`${ids.length === 1 ? '1 drawing' : `${ids.length} drawings`} added to ${set.name}, with their rights`)
    open.value = false
  } catch (problem) {
    complain(problem)
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <v-dialog v-model="open" max-width="1140" aria-label="Stock library">
    <section class="sheet stock">
      <header>
        <h2>{{ data?.library ?? 'Stock library' }}</h2>
        <span class="gap" />
        <v-btn class="strong" @click="open = false">Close</v-btn>
      </header>
      <div class="sieve">
        <v-text-field v-model="text" class="field wide" type="search" aria-label="Search the library" placeholder="boat, first aid, harbor…" />
        <PickOne v-model="pack" label="Pack" :options="[{ value: '', title: 'every pack' }, ...plain(data?.packs ?? [])]" />
        <PickOne v-model="colors" label="Number of colors" :options="COLORS" />
        <PickOne v-model="drawn" label="Manner" :options="MANNERS" />
        <TickBox v-model="like">looks like this set</TickBox>
        <TickBox v-model="ours">in our colors</TickBox>
        <span class="gap" />
        <span class="muted" role="status">{{ data ? `${data.found} found` : '' }}</span>
      </div>
      <ProblemNote v-if="error" :error="error" @again="refetch()" />
      <ul v-else-if="data?.found" class="scrolls" tabindex="0" aria-label="Drawings found">
        <li v-for="item in data.items" :key="item.id">
          <label v-hint="`${item.pack}, ${item.author}, ${item.rights}`" :class="{ on: ticked.includes(item.id) }">
            <v-checkbox-btn v-model="ticked" inline :value="item.id" :aria-label="`${item.title}, ${item.pack}`" />
            <span class="picture"><SteadyImage :src="picture(item.id)" alt="" /></span>
            <span class="words">{{ item.title }}</span>
            <span class="words muted small">{{ item.pack }}</span>
          </label>
        </li>
      </ul>
      <p v-else-if="data" class="muted none">Nothing like that. Try fewer words, or every pack.</p>
      <footer>
        <v-btn class="strong" :disabled="busy || !ticked.length" @click="add(ticked)">
          Add {{ ticked.length || '' }} to {{ set.name }}
        </v-btn>
        <v-btn v-if="pack && data?.items.length" :disabled="busy" @click="add(data.items.map((item) => item.id))">
          Add all {{ data.items.length }} shown of {{ pack }}
        </v-btn>
      </footer>
    </section>
  </v-dialog>
</template>

<style scoped>
.stock {
  display: flex;
  flex-direction: column;
  gap: 10px;
  padding: 16px;
  height: 92vh;
}
header,
footer,
.sieve {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
}
.gap {
  flex: 1;
}
.sieve .field {
  flex: 0 1 150px;
}
.sieve .wide {
  flex: 1 1 220px;
}
ul {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(116px, 1fr));
  gap: 6px;
  align-content: start;
  flex: 1;
}
li label {
  position: relative;
  display: grid;
  border: 1px solid var(--hair);
  background: var(--field);
  cursor: pointer;
}
li label.on {
  outline: 2px solid var(--ink);
}
li .v-checkbox-btn {
  position: absolute;
  background: var(--field);
  top: 4px;
  left: 4px;
}
.picture {
  display: flex;
  align-items: center;
  justify-content: center;
  height: 92px;
  padding: 8px;
  background: #fff;
}
.none {
  flex: 1;
}
.words {
  padding: 0 4px 2px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
