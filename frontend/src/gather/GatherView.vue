<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'

import type { Candidates } from '@/api/client'
import { useAccept } from '@/api/formats'
import { useKit, useStartKit } from '@/api/kits'
import { dropOnKit, dropOnSource, readAddress, useSources } from '@/api/sources'
import { complain, say } from '@/frame/notices'
import DropNote from '@/parts/DropNote.vue'
import FileDrop from '@/parts/FileDrop.vue'
import { dropFiles, dropped, type Drop } from '@/parts/upload'
import CodesSource from './CodesSource.vue'
import ShelfSource from './ShelfSource.vue'
import SourceList from './SourceList.vue'
import SourceStage from './SourceStage.vue'

const accept = useAccept('sources')

const route = useRoute()
const router = useRouter()
const kitId = computed(() => (route.params.kitId as string | undefined) || undefined)
const { data: kit } = useKit(kitId)
const { data: sources } = useSources(kitId)

/** What is open: `codes`, `shelf`, or the id of a source; without a word in the address, the first source. */
const here = computed(() => {
  if (!kitId.value) return 'codes'
  return (route.params.source as string) || (sources.value && (sources.value[0]?.id ?? 'codes')) || ''
})
const isSource = computed(() => !!here.value && here.value !== 'codes' && here.value !== 'shelf')

const drop = ref<Drop>()
const codes = ref<Candidates>()
const reading = ref(false)
const start = useStartKit()

function show(source: string): Promise<unknown> {
  return router.push({ name: 'gather', params: { kitId: kitId.value, source } })
}

/** Takes a drop: several pictures of it make one board, even when they travel in several batches. */
async function take(files: File[]): Promise<void> {
  try {
    let id = kitId.value
    if (!id) {
      id = (await start.mutateAsync({ name: 'Unnamed kit', colors: [] })).id
      await router.push({ name: 'gather', params: { kitId: id } })
    }
    const target = id
    let made: { id: string; kind: string } | undefined
    const found: Candidates = { found: [], untaken: [], note: null }
    const done = await dropFiles(
      files,
      async (body, signal) => {
        const result =
          made && made.kind !== 'page' ? await dropOnSource(made.id, body, signal) : await dropOnKit(target, body, signal)
        made = result.source ?? made
        found.found.push(...result.codes)
        return result
      },
      (shown) => (drop.value = shown),
    )
    if (!done.refused.length) drop.value = undefined
    say(dropped(done))
    if (found.found.length) codes.value = found
    if (made) await show(made.id)
    else if (found.found.length) await show('codes')
  } catch (error) {
    drop.value = undefined
    complain(error)
  }
}

async function read(address: string): Promise<void> {
  reading.value = true
  try {
    const source = await readAddress(kitId.value!, address)
    say(`${source.name} read`)
    await show(source.id)
  } catch (error) {
    complain(error)
  }
  reading.value = false
}
</script>

<template>
  <FileDrop
    v-slot="{ pick }"
    :accept="accept"
    hint="Drop pictures, a logo, a saved page or a list of codes"
    @files="take"
  >
    <div class="gather">
      <SourceList
        v-if="kitId"
        :kit-id="kitId"
        :sources="sources ?? []"
        :here="here"
        :reading="reading"
        @pick="pick"
        @address="read"
      />
      <div class="open">
        <DropNote v-if="drop" :drop="drop" @close="drop = undefined" />
        <SourceStage v-if="isSource && kit" :key="here" :kit="kit" :source-id="here" />
        <ShelfSource v-else-if="here === 'shelf' && kit" :kit="kit" />
        <div v-else-if="here === 'codes' && (kit || !kitId)" class="codes">
          <CodesSource :key="kitId ?? 'new'" :kit="kit" :dropped="codes" @forget="codes = undefined" />
        </div>
      </div>
    </div>
  </FileDrop>
</template>

<style scoped>
.gather {
  display: flex;
  flex: 1;
  min-height: 0;
}
.open {
  display: flex;
  flex-direction: column;
  flex: 1;
  min-width: 0;
  min-height: 0;
}
.open :deep(.drop) {
  margin: 10px 16px 0;
}
.codes {
  display: grid;
  grid-template-columns: minmax(280px, 42%) 1fr;
  flex: 1;
  min-height: 0;
}
</style>
