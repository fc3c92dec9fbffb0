<script setup lang="ts">
import { onBeforeUnmount, ref, watch } from 'vue'

/** A picture that keeps showing the last one until the next has arrived, so that a grid never flickers. */
const props = defineProps<{ src: string; alt: string }>()
const emit = defineEmits<{ shown: [src: string]; failed: [] }>()
const shown = ref('')
const failed = ref(false)

let coming: HTMLImageElement | undefined
/** Nobody waits for it any more: a list that is gone through fast leaves no queue behind. */
function drop(): void {
  if (coming && !coming.complete) coming.src = ''
  coming = undefined
}
onBeforeUnmount(drop)

watch(
  () => props.src,
  (src) => {
    drop()
    const next = (coming = new Image())
    next.onload = () => {
      if (src !== props.src) return
      shown.value = src
      failed.value = false
      emit('shown', src)
    }
    next.onerror = () => {
      if (src !== props.src || next !== coming) return
      failed.value = true
      emit('failed')
    }
    next.src = src
  },
  { immediate: true },
)
</script>

<template>
  <span v-if="failed" class="failed muted">cannot be drawn</span>
  <img v-else-if="shown" :src="shown" :alt="alt" draggable="false" />
</template>

<style scoped>
img {
  display: block;
  max-width: 100%;
  max-height: 100%;
}
.failed {
  font-size: 12px;
  text-align: center;
}
</style>
