<script setup lang="ts">
import { computed, ref, watch } from 'vue'

import { pictureUrl, useSet, useSetFiles } from '@/api/queries'
import PictureGrid from './PictureGrid.vue'

/** The files of a set as they are handed over. */
const props = defineProps<{ setId: string; total: number }>()

/** Files that are shown at first, and with each wish for more. */
const STEP = 120
const { data: set } = useSet(() => props.setId)
const shown = ref<[number, number]>([0, STEP - 1])
watch(() => props.setId, () => (shown.value = [0, STEP - 1]))
const { files } = useSetFiles(set, { only: 'handed', order: 'set', text: '', ground: '#ffffff' }, shown)
const pictures = computed(() =>
  Array.from({ length: Math.min(shown.value[1] + 1, props.total) }, (_, at) => files.value?.at(at))
    .filter((file) => file !== undefined)
    .map((file) => ({ key: file.id, name: file.name, src: pictureUrl(file, { size: 192, of: props.setId }) })),
)
</script>

<template>
  <div class="handed">
    <PictureGrid :files="pictures" />
    <v-btn v-if="pictures.length && pictures.length < total" @click="shown = [0, shown[1] + STEP]">
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
