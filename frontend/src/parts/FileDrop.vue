<script setup lang="ts">
import { ref } from 'vue'

import { filesOf } from './upload'

/** An area that takes files: dropped on it, or chosen by whatever its content calls `pick` from. */
defineProps<{ accept: string; hint: string }>()
const emit = defineEmits<{ files: [files: File[]] }>()

const dragging = ref(false)
const picker = ref<HTMLInputElement>()

function over(event: DragEvent): void {
  if (event.dataTransfer?.types.includes('Files')) dragging.value = true
}

async function dropped(event: DragEvent): Promise<void> {
  dragging.value = false
  if (!event.dataTransfer?.types.includes('Files')) return
  const files = await filesOf(event.dataTransfer)
  if (files.length) emit('files', files)
}

function chosen(event: Event): void {
  const input = event.target as HTMLInputElement
  const files = [...(input.files ?? [])]
  input.value = ''
  if (files.length) emit('files', files)
}
</script>

<template>
  <div class="area" data-testid="drop" @dragenter="over" @dragover.prevent="over" @dragleave.self="dragging = false" @drop.prevent="dropped">
    <slot :pick="() => picker?.click()" />
    <input ref="picker" type="file" multiple :accept="accept" hidden data-testid="files" @change="chosen" />
    <div v-if="dragging" class="veil" @dragleave="dragging = false">
      <p>{{ hint }}</p>
    </div>
  </div>
</template>

<style scoped>
.area {
  position: relative;
  display: flex;
  flex-direction: column;
  flex: 1;
  min-height: 0;
}
.veil {
  position: absolute;
  inset: 0;
  z-index: 5;
  display: grid;
  place-items: center;
  border: 3px dashed var(--ink);
  background: color-mix(in srgb, var(--ground) 88%, transparent);
  font-size: 18px;
  font-weight: 700;
  pointer-events: none;
}
</style>
