<script setup lang="ts">
import { refDebounced, useLocalStorage } from '@vueuse/core'
import { ref, watch } from 'vue'

import type { Candidates, KitView } from '@/api/client'
import { useAccept } from '@/api/formats'
import { readCodes } from '@/api/kits'
import { readCodeFile } from '@/api/sources'
import { complain } from '@/frame/notices'
import CandidatePanel from './CandidatePanel.vue'

const accept = useAccept('codes')

/** Codes in any text, or in a file: a table, tokens, a deck's theme. */
const props = defineProps<{ kit: KitView | undefined; dropped?: Candidates | undefined }>()
const emit = defineEmits<{ forget: [] }>()

// What was pasted outlives a reload, until its colors are in a kit.
const text = useLocalStorage(`pavese-codes-${props.kit?.id ?? 'new'}`, '')
const settled = refDebounced<string>(text, 250)
const none: Candidates = { found: [], untaken: [], note: null }
/** What a file held, kept like the text; a text pasted later takes its place. */
const file = useLocalStorage<{ name: string; codes: Candidates }>(`pavese-file-${props.kit?.id ?? 'new'}`, { name: '', codes: none })
const found = ref<Candidates>(file.value.codes)
const reading = ref(false)

let running: AbortController | undefined
watch([settled, () => props.kit?.history.revision], read, { immediate: true })
watch(
  () => props.dropped,
  (dropped) => {
    if (!dropped) return
    keep('dropped files', dropped)
  },
  { immediate: true },
)

async function read(): Promise<void> {
  running?.abort()
  if (!settled.value.trim()) {
    found.value = file.value.codes
    return
  }
  file.value = { name: '', codes: none }
  running = new AbortController()
  reading.value = true
  try {
    found.value = await readCodes(settled.value, props.kit?.id, running.signal)
    reading.value = false
  } catch (error) {
    if (error instanceof DOMException) return
    reading.value = false
    complain(error)
  }
}

async function readFile(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const chosen = input.files?.[0]
  input.value = ''
  if (!chosen) return
  reading.value = true
  try {
    keep(chosen.name, await readCodeFile(chosen, props.kit?.id))
  } catch (error) {
    complain(error)
  }
  reading.value = false
}

function keep(name: string, codes: Candidates): void {
  text.value = ''
  file.value = { name, codes }
  found.value = codes
}

function forget(): void {
  keep('', none)
  emit('forget')
}
</script>

<template>
  <section class="source" aria-labelledby="source-title">
    <h1 id="source-title">{{ kit ? 'Colors from codes' : 'Start a kit' }}</h1>
    <p class="muted">
      Paste anything that holds color codes: a list, an e-mail, a style sheet. Names beside the codes come along.
    </p>
    <v-textarea
      v-model="text"
      class="field mono codes"
      spellcheck="false"
      aria-label="Text with color codes"
      placeholder="Deep water: #0b5e6b&#10;--harbor-lamp: oklch(0.8 0.14 80);&#10;rgb(210, 69, 45), hsl(224 31% 51%)"
    />
    <label class="file">
      <input type="file" :accept="accept" data-testid="code-file" @change="readFile" />
      <span>or read a file: text, CSV, design tokens, the theme of a PPTX or ODP…</span>
    </label>
    <p v-if="file.name" class="muted">
      From {{ file.name }}. <button type="button" class="link" @click="forget">Clear</button>
    </p>
    <p v-if="!kit" class="muted">
      Or drop anything else that holds your colors onto this page: a logo, pictures (several make a board), a saved web page, a style
      sheet, a palette, design tokens, the deck your company uses. The kit is begun with it.
    </p>
  </section>
  <CandidatePanel :kit="kit" :found="found.found" :note="found.note" verb="recognised" :reading="reading" @added="forget">
    <template v-if="found.untaken?.length" #untaken>
      <details class="untaken">
        <summary>{{ found.untaken.length }} more {{ found.untaken.length === 1 ? 'looks' : 'look' }} like codes</summary>
        <p v-for="(one, at) in found.untaken" :key="at" class="small">
          line {{ one.line }}: <span class="mono">{{ one.text }}</span>, not taken: {{ one.why }}
        </p>
      </details>
    </template>
    <template #nothing>
      <p v-if="(text.trim() || file.name) && !reading">
        No color code found in this. Codes look like <span class="mono">#0b5e6b</span>,
        <span class="mono">rgb(11 94 107)</span> or <span class="mono">oklch(0.44 0.07 212)</span>.
      </p>
      <p v-else>What is recognised is listed here, with the place it stood at.</p>
    </template>
  </CandidatePanel>
</template>

<style scoped>
.source {
  display: flex;
  flex-direction: column;
  gap: 10px;
  padding: 16px;
  border-right: 1px solid var(--rule);
  min-height: 0;
}
.codes {
  flex: 1;
  min-height: 160px;
}
.codes :deep(textarea) {
  font-size: 13px;
  line-height: 1.5;
}
.untaken {
  padding: 6px 14px;
  max-height: 30%;
  overflow: auto;
  border-top: 1px solid var(--hair);
}
.file input {
  position: absolute;
  opacity: 0;
  pointer-events: none;
}
.file span {
  text-decoration: underline;
  cursor: pointer;
}
.file:focus-within span {
  outline: 2px solid var(--ink);
  outline-offset: 2px;
}
</style>
