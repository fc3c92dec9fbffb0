<script setup lang="ts">
import { computed, ref, watch } from 'vue'

import { pictureUrl, useSetFiles, type Reach } from '@/api/files'
import { useSet } from '@/api/sets'
import PictureGrid from './PictureGrid.vue'

/** The files of a set as they are handed over. */
const props = defineProps<{ setId: string; total: number }>()

/** Files that are shown at first, and with each wish for more. */
const STEP = 120
const { data: set } = useSet(() => props.setId)
const SIZE = 192
const shown = ref(STEP)
watch(() => props.setId, () => (shown.value = STEP))
const reach = computed<Reach>(() => ({ there: [0, shown.value - 1], seen: [Math.max(shown.value - STEP, 0), shown.value - 1] }))
const { files } = useSetFiles(set, { only: 'handed', order: 'set', text: '', ground: '#ffffff' }, reach, SIZE)
const pictures = computed(() =>
  Array.from({ length: Math.min(shown.value, props.total) }, (_, at) => files.value?.at(at))
    .filter((file) => file !== undefined)
    .map((file) => ({ key: file.id, name: file.name, src: pictureUrl(file, { size: SIZE, of: props.setId }) })),
)
</script>

<template>
  <div class="handed">
    <PictureGrid :files="pictures" />
    <v-btn v-if="pictures.length && pictures.length < total" @click="shown += STEP">
      Show more of the other {{ total - pictures.length }}
    </v-btn>
  </div>
</template>

<style scoped>
.handed {
  display: grid;
  gap: 10px;
  justify-items: start;
}
</style>
