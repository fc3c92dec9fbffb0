<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { refDebounced } from '@vueuse/core'
import { computed, ref, watch } from 'vue'

import { client, taken, type KitView, type SetView } from '@/api/client'
import { addFromStock } from '@/api/queries'
import { complain, say } from '@/frame/notices'
import ProblemNote from '@/parts/ProblemNote.vue'
import SteadyImage from '@/parts/SteadyImage.vue'

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
  placeholderData: (before) => before,
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
        <input v-model="text" class="field" type="search" aria-label="Search the library" placeholder="boat, first aid, harbor…" />
        <select v-model="pack" class="field" aria-label="Pack">
          <option value="">every pack</option>
          <option v-for="one in data?.packs" :key="one" :value="one">{{ one }}</option>
        </select>
        <select v-model="colors" class="field" aria-label="Number of colors">
          <option value="">any colors</option>
          <option value="one">one color</option>
          <option value="several">several colors</option>
        </select>
        <select v-model="drawn" class="field" aria-label="Manner">
          <option value="">any manner</option>
          <option value="stroke">strokes</option>
          <option value="filled">filled</option>
        </select>
        <label><input v-model="like" type="checkbox" /> looks like this set</label>
        <label><input v-model="ours" type="checkbox" /> in our colors</label>
        <span class="gap" />
        <span class="muted" role="status">{{ data ? `${data.found} found` : '' }}</span>
      </div>
      <ProblemNote v-if="error" :error="error" @again="refetch()" />
      <ul v-else-if="data?.found" class="scrolls" tabindex="0" aria-label="Drawings found">
        <li v-for="item in data.items" :key="item.id">
          <label :class="{ on: ticked.includes(item.id) }" :title="`${item.pack}, ${item.author}, ${item.rights}`">
            <input v-model="ticked" type="checkbox" :value="item.id" :aria-label="`${item.title}, ${item.pack}`" />
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
.sieve label {
  display: flex;
  gap: 6px;
  align-items: center;
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
li input {
  position: absolute;
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
