<script setup lang="ts">
import { useInfiniteQuery } from '@tanstack/vue-query'
import { computed } from 'vue'

import { client, taken } from '@/api/client'
import type { components } from '@/api/schema'
import { complain } from '@/frame/notices'
import PictureGrid from '@/parts/PictureGrid.vue'

/** A set as a link shows it: its files in the colors of the kit, and all of them as one zip. */
const props = defineProps<{ path: string; set: components['schemas']['SharedSet'] }>()
const MOST = 48
const token = computed(() => decodeURIComponent(props.path.split('/').at(-1)!))
const { data, hasNextPage, fetchNextPage, isFetching } = useInfiniteQuery({
  queryKey: computed(() => ['shared', token.value, props.set.id]),
  queryFn: ({ pageParam: first }) =>
    taken(
      client.GET('/api/shared/{token}/sets/{set_id}/files', {
        params: { path: { token: token.value, set_id: props.set.id }, query: { first, most: MOST } },
      }),
    ),
  initialPageParam: 0,
  getNextPageParam: (last, all) => (last.length < MOST || all.flat().length >= props.set.files ? undefined : all.flat().length),
})
const files = computed(() => data.value?.pages.flat() ?? [])
const pictures = computed(() =>
  files.value.map(({ id, name, fingerprint }) => ({ key: id, name, src: `${props.path}/files/${id}/picture.png?size=192&f=${fingerprint}` })),
)
</script>

<template>
  <section :aria-label="set.name">
    <header>
      <h2>{{ set.name }}</h2>
      <span class="muted">{{ set.files }} {{ set.files === 1 ? 'file' : 'files' }} in these colors</span>
      <span class="gap" />
      <v-btn :href="`${path}/sets/${set.id}/files.zip`">Download this set</v-btn>
    </header>
    <PictureGrid :files="pictures" />
    <v-btn v-if="hasNextPage" :disabled="isFetching" @click="fetchNextPage().catch(complain)">
      Show more of the other {{ set.files - files.length }}
    </v-btn>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 10px;
  justify-items: start;
}
header {
  display: flex;
  gap: 12px;
  align-items: baseline;
  width: 100%;
  margin-top: 14px;
}
h2 {
  font-size: 16px;
}
.gap {
  flex: 1;
}
</style>
