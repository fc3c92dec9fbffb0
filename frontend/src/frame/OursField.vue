<script setup lang="ts">
import { onClickOutside, refDebounced } from '@vueuse/core'
import { computed, ref, useTemplateRef, watch } from 'vue'

import type { Answer, KitView } from '@/api/client'
import { isItOurs } from '@/api/kits'
import SwatchBox from '@/parts/SwatchBox.vue'
import { VERDICTS } from '@/parts/verdicts'
import { complain, copy } from './notices'

/** Picks a color from anywhere on the screen, where the browser can (https://wicg.github.io/eyedropper-api/). */
interface ScreenPicker {
  open: () => Promise<{ sRGBHex: string }>
}
declare global {
  interface Window {
    EyeDropper?: new () => ScreenPicker
  }
}

const props = defineProps<{ kit: KitView }>()
const text = ref('')
const settled = refDebounced<string>(text, 180)
const answers = ref<Answer[]>()
const open = ref(false)
const field = useTemplateRef('field')
onClickOutside(field, () => (open.value = false))

const canPick = 'EyeDropper' in window

watch([settled, () => props.kit.history.revision], async ([asked], [before]) => {
  if (!asked.trim()) {
    answers.value = undefined
    return
  }
  try {
    const found = await isItOurs(props.kit.id, asked)
    if (asked === settled.value) answers.value = found.answers
    // What is asked anew because the kit has changed is not put before anybody.
    if (asked !== before) open.value = true
  } catch (error) {
    complain(error)
  }
})

const summary = computed(() => {
  const count = (verdict: Answer['verdict']) => answers.value?.filter((entry) => entry.verdict === verdict).length ?? 0
  return `${count('ours')} ours, ${count('near')} near, ${count('off')} not ours`
})

async function pick(): Promise<void> {
  try {
    text.value = (await new window.EyeDropper!().open()).sRGBHex
  } catch {
    // The person pressed Escape: nothing was picked, nothing is asked.
  }
}
</script>

<template>
  <div ref="field" class="ours" @keydown.esc="open = false">
    <v-text-field
      v-model="text"
      class="field asked"
      spellcheck="false"
      autocomplete="off"
      maxlength="20000"
      placeholder="Is this one of ours? Paste a code"
      aria-label="Is this one of ours? A color code, or a list"
      @focus="open = true"
    />
    <button v-if="canPick" type="button" class="pick" @click="pick">pick</button>
    <section v-if="open && answers" class="answers scrolls" role="status" aria-label="Answer">
      <p v-if="!answers.length">No color code in this. Codes look like <span class="mono">#0b5e6b</span>.</p>
      <p v-else-if="answers.length > 1" class="muted">{{ summary }}</p>
      <ul>
        <li v-for="(answer, at) in answers" :key="at">
          <SwatchBox :css="answer.hex" :size="30" /><SwatchBox v-if="answer.nearest" :css="answer.nearest" :size="30" />
          <span class="words">
            <span><strong>{{ VERDICTS[answer.verdict] }}</strong> <span v-if="answers.length > 1" class="mono muted">{{ answer.code }}</span></span>
            <span v-if="answer.name">{{ answer.name }}, difference {{ answer.difference }}</span>
            <span v-else class="muted">the kit has no colors yet</span>
          </span>
          <v-btn v-if="answer.nearest" :aria-label="`Copy ${answer.nearest}`" @click="copy(answer.nearest)">
            Copy {{ answer.nearest }}
          </v-btn>
        </li>
      </ul>
    </section>
  </div>
</template>

<style scoped>
.ours {
  position: relative;
  display: flex;
}
.asked {
  --v-input-control-height: 26px;
  width: 236px;
}
.pick {
  padding: 0 8px;
  border: 1px solid var(--rule);
  border-left: 0;
  background: var(--field);
  cursor: pointer;
}
.answers {
  position: absolute;
  top: 32px;
  right: 0;
  z-index: 20;
  width: 410px;
  max-height: 60vh;
  padding: 10px 12px;
  border: 1px solid var(--ink);
  background: var(--panel);
}
li {
  display: flex;
  gap: 4px;
  align-items: center;
  padding: 4px 0;
}
.words {
  display: grid;
  flex: 1;
  margin-left: 6px;
  line-height: 1.2;
}
</style>
