<script setup lang="ts">
import type { AnimationItem } from 'lottie-web'
import { onBeforeUnmount, ref, useTemplateRef, watch } from 'vue'
import SlideField from '@/parts/SlideField.vue'

/** Plays an animation; with `timeline`, with a line to go through it and the scenes its markers name. */
const props = defineProps<{ src: string; label: string; timeline?: boolean }>()

interface Scene {
  name: string
  from: number
}

const stage = useTemplateRef('stage')
const frame = ref(0)
const last = ref(0)
const playing = ref(true)
const failed = ref(false)
const scenes = ref<Scene[]>([])
let shown: AnimationItem | undefined
let asked = 0

async function load(): Promise<void> {
  const mine = ++asked
  try {
    const [{ default: player }, answer] = await Promise.all([
      import('lottie-web/build/player/lottie_light'),
      fetch(props.src),
    ])
    const data = answer.ok ? await answer.json() : undefined
    if (mine !== asked || !stage.value) return
    failed.value = !data
    if (!data) return
    shown?.destroy()
    const item = player.loadAnimation({ container: stage.value, renderer: 'svg', loop: true, autoplay: false, animationData: data })
    shown = item
    last.value = Math.max(Math.floor(item.totalFrames) - 1, 0)
    scenes.value = ((data.markers ?? []) as { tm: number; cm: string }[]).map((one) => ({ name: one.cm, from: one.tm }))
    item.addEventListener('enterFrame', () => (frame.value = Math.floor(item.currentFrame)))
    const still = window.matchMedia('(prefers-reduced-motion: reduce)').matches
    go(still && props.timeline ? false : true, frame.value)
  } catch {
    // Whatever the player cannot make of a stranger's file: it is said where it would be seen.
    if (mine === asked) failed.value = true
  }
}

function go(on: boolean, at: number): void {
  playing.value = on
  if (on) shown?.goToAndPlay(at, true)
  else shown?.goToAndStop(at, true)
}

watch([() => props.src, stage], () => stage.value && void load(), { immediate: true, flush: 'post' })
onBeforeUnmount(() => {
  asked++
  shown?.destroy()
})
</script>

<template>
  <div class="player">
    <div v-show="!failed" ref="stage" class="stage" role="img" :aria-label="label" />
    <p v-if="failed" class="failed" role="status">This animation cannot be played here. It can still be recolored.</p>
    <div v-else-if="timeline" class="line">
      <v-btn @click="go(!playing, frame)">{{ playing ? 'Pause' : 'Play' }}</v-btn>
      <SlideField :model-value="frame" label="Frame" :min="0" :max="last" live bare @update:model-value="(at) => go(false, at)" />
      <span class="mono">{{ frame }} / {{ last }}</span>
      <button v-for="scene in scenes" :key="scene.from" type="button" class="link small" @click="go(false, scene.from)">
        {{ scene.name }}
      </button>
    </div>
  </div>
</template>

<style scoped>
.player {
  display: flex;
  flex-direction: column;
  gap: 6px;
  width: 100%;
  height: 100%;
  min-height: 0;
}
.stage {
  flex: 1;
  min-height: 0;
}
.failed {
  margin: auto;
  padding: 12px;
  text-align: center;
}
.line {
  display: flex;
  gap: 8px;
  align-items: center;
}
.line .slide {
  flex: 1;
}
</style>
