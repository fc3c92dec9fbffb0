<script setup lang="ts">
import { watch } from 'vue'
import { useRouter } from 'vue-router'

import { client, taken } from '@/api/client'
import { useKits } from '@/api/kits'
import ProblemNote from '@/parts/ProblemNote.vue'
import { complain } from './notices'

const { data: kits, error, refetch } = useKits()
const router = useRouter()

/** Opens the active kit where its work stands: at its files when it has some, else at its colors. */
async function open(kitId: string): Promise<void> {
  const kit = await taken(client.GET('/api/kits/{kit_id}', { params: { path: { kit_id: kitId } } }))
  // Whoever has gone elsewhere meanwhile is not fetched back.
  if (router.currentRoute.value.name !== 'start') return
  const set = kit.sets[0]
  await router.replace(
    set ? { name: 'apply', params: { kitId, setId: set.id } } : { name: 'compose', params: { kitId } },
  )
}

watch(
  kits,
  (found) => {
    const first = found?.find((kit) => kit.active) ?? found?.find((kit) => !kit.archived)
    if (first) open(first.id).catch(complain)
    else if (found) void router.replace({ name: found.length ? 'kits' : 'new' })
  },
  { immediate: true },
)
</script>

<template>
  <ProblemNote v-if="error" :error="error" @again="refetch()" />
</template>
