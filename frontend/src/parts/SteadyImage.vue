<script setup lang="ts">
import { onBeforeUnmount, ref, useTemplateRef, watch } from 'vue'

/** A picture that keeps showing the last one until the next has arrived, so that a grid never flickers. One that takes its
    time is busy, which its place shows (base.scss). */
const props = defineProps<{ src: string; alt: string }>()
const emit = defineEmits<{ shown: [src: string]; failed: [] }>()
const shown = ref(props.src)
const failed = ref(false)
const image = useTemplateRef('image')

/** Whether it has been waited for so long that one asks what it is about. */
const late = ref(false)
const LATE = 300
let timer: ReturnType<typeof setTimeout> | undefined
function settle(): void {
  clearTimeout(timer)
  late.value = false
}
function expect(): void {
  settle()
  timer = setTimeout(() => (late.value = true), LATE)
}
expect()

/** Whether what is shown has come; and what is to follow it, which is fetched out of sight. */
let there = false
let coming: HTMLImageElement | undefined
/** Nobody waits for it any more: a list that is gone through fast leaves no queue behind. */
function drop(): void {
  if (coming && !coming.complete) coming.src = ''
  coming = undefined
}
onBeforeUnmount(() => {
  clearTimeout(timer)
  drop()
  if (image.value && !image.value.complete) image.value.src = ''
})

function show(src: string): void {
  there = false
  failed.value = false
  shown.value = src
}
function come(): void {
  there = true
  if (shown.value === props.src) settle()
  emit('shown', shown.value)
}
function fail(): void {
  there = false
  settle()
  failed.value = true
  emit('failed')
}

watch(
  () => props.src,
  (src) => {
    drop()
    expect()
    if (!there) return show(src)
    const next = (coming = new Image())
    next.onload = () => next === coming && show(src)
    next.onerror = () => next === coming && fail()
    next.src = src
  },
)
</script>

<template>
  <span v-if="failed" class="failed muted">cannot be drawn</span>
  <img v-else ref="image" :src="shown" :alt="alt" :aria-busy="late || undefined" draggable="false" @load="come" @error="fail" />
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
