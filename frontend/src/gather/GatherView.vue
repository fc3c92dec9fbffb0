<script setup lang="ts">
import { refDebounced, useLocalStorage } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'

import { ProblemError, type Candidate } from '@/api/client'
import { readCodes, useKit, useKitChanges, useStartKit } from '@/api/queries'
import { complain, say } from '@/frame/notices'
import CandidateTable, { type Pick } from './CandidateTable.vue'

const route = useRoute()
const router = useRouter()
const kitId = computed(() => (route.params.kitId as string | undefined) || undefined)
const { data: kit } = useKit(kitId)

// What was pasted outlives a reload, until its colors are in a kit.
const text = useLocalStorage(`pavese-codes-${kitId.value ?? 'new'}`, '')
const settled = refDebounced<string>(text, 250)
const picks = ref<Pick[]>([])
const note = ref<string | null>(null)
const reading = ref(false)
const name = ref('')
const nameProblem = ref('')

let running: AbortController | undefined
watch([settled, kitId], read, { immediate: true })

async function read(): Promise<void> {
  running?.abort()
  if (!settled.value.trim()) {
    picks.value = []
    note.value = null
    return
  }
  running = new AbortController()
  reading.value = true
  try {
    const answer = await readCodes(settled.value, kitId.value, running.signal)
    picks.value = answer.found.map(toPick)
    note.value = answer.note ?? null
    reading.value = false
  } catch (error) {
    if (error instanceof DOMException) return
    reading.value = false
    complain(error)
  }
}

function toPick(found: Candidate): Pick {
  return { ...found, ticked: found.certain && !found.known_as }
}

const ticked = computed(() => picks.value.filter((pick) => pick.ticked))
const nameless = computed(() => ticked.value.some((pick) => !pick.name.trim()))

const { add } = useKitChanges(kitId)
const start = useStartKit()
const busy = computed(() => add.isPending.value || start.isPending.value)

function chosen() {
  return ticked.value.map((pick) => ({ name: pick.name, role: pick.role, code: pick.hex }))
}

async function addAll(): Promise<void> {
  try {
    const count = ticked.value.length
    const changed = await add.mutateAsync(chosen())
    text.value = ''
    say(`${count} ${count === 1 ? 'color' : 'colors'} added to ${changed.name}`)
    await router.push({ name: 'compose', params: { kitId: changed.id } })
  } catch (error) {
    complain(error)
  }
}

async function startKit(): Promise<void> {
  nameProblem.value = name.value.trim() ? '' : 'Give the kit a name first.'
  if (nameProblem.value) return
  try {
    const made = await start.mutateAsync({ name: name.value, colors: chosen() })
    text.value = ''
    say(`${made.name} started with ${made.colors.length} colors`)
    await router.push({ name: 'compose', params: { kitId: made.id } })
  } catch (error) {
    if (error instanceof ProblemError) complain(error)
    else throw error
  }
}

async function readFile(event: Event): Promise<void> {
  const file = (event.target as HTMLInputElement).files?.[0]
  if (!file) return
  if (file.size > 2_000_000) {
    complain(new ProblemError(`${file.name} is larger than 2 MB; paste the part that holds the codes.`, 0, ''))
    return
  }
  text.value = await file.text()
}
</script>

<template>
  <div class="gather">
    <section class="source" aria-labelledby="source-title">
      <h1 id="source-title">{{ kitId ? 'Colors from codes' : 'Start a kit from codes' }}</h1>
      <p class="muted">
        Paste anything that holds color codes: a list, an e-mail, a style sheet. Names beside the codes come along.
      </p>
      <textarea
        v-model="text"
        class="mono scrolls"
        spellcheck="false"
        aria-label="Text with color codes"
        placeholder="Deep water: #0b5e6b&#10;--harbor-lamp: oklch(0.8 0.14 80);&#10;rgb(210, 69, 45), hsl(224 31% 51%)"
      />
      <label class="file">
        <input type="file" accept=".css,.scss,.txt,.csv,.json,.md,.html,text/*" @change="readFile" />
        <span>or read a text file…</span>
      </label>
    </section>

    <section class="found" aria-labelledby="found-title">
      <header>
        <h2 id="found-title">
          {{ picks.length }} {{ picks.length === 1 ? 'color' : 'colors' }} recognised
          <span v-if="picks.length" class="muted">, {{ ticked.length }} ticked</span>
        </h2>
        <span v-if="reading" class="muted" role="status">reading…</span>
        <span v-if="note" class="muted">{{ note }}</span>
      </header>
      <CandidateTable v-if="picks.length" v-model="picks" />
      <p v-else-if="text.trim() && !reading" class="nothing">
        No color code found in this text. Codes look like <span class="mono">#0b5e6b</span>,
        <span class="mono">rgb(11 94 107)</span> or <span class="mono">oklch(0.44 0.07 212)</span>.
      </p>
      <p v-else class="nothing muted">What is recognised is listed here, with the place it stood at.</p>

      <footer>
        <template v-if="kitId">
          <v-btn class="strong" :disabled="!ticked.length || nameless || busy" @click="addAll">
            Add {{ ticked.length }} {{ ticked.length === 1 ? 'color' : 'colors' }} to {{ kit?.name }}
          </v-btn>
          <span v-if="nameless" class="muted">Every ticked color needs a name.</span>
        </template>
        <form v-else @submit.prevent="startKit">
          <v-text-field
            v-model="name"
            label="Name of the kit"
            :error-messages="nameProblem"
            maxlength="80"
            autocomplete="off"
          />
          <v-btn type="submit" class="strong" :disabled="nameless || busy">
            Start the kit with {{ ticked.length }} {{ ticked.length === 1 ? 'color' : 'colors' }}
          </v-btn>
        </form>
      </footer>
    </section>
  </div>
</template>

<style scoped>
.gather {
  display: grid;
  grid-template-columns: minmax(300px, 34%) 1fr;
  flex: 1;
  min-height: 0;
}
.source {
  display: flex;
  flex-direction: column;
  gap: 10px;
  padding: 16px;
  background: var(--panel);
  border-right: 1px solid var(--rule);
  min-height: 0;
}
textarea {
  flex: 1;
  min-height: 160px;
  resize: none;
  padding: 10px;
  border: 1px solid var(--rule);
  background: var(--field);
  color: var(--ink);
  font-size: 13px;
  line-height: 1.5;
}
textarea::placeholder {
  color: var(--muted);
  opacity: 1;
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
.found {
  display: flex;
  flex-direction: column;
  min-height: 0;
  min-width: 0;
}
header {
  display: flex;
  gap: 16px;
  align-items: baseline;
  padding: 16px 16px 8px;
}
.nothing {
  flex: 1;
  padding: 16px;
}
footer {
  display: flex;
  gap: 12px;
  align-items: center;
  padding: 10px 16px;
  border-top: 1px solid var(--rule);
  background: var(--panel);
}
form {
  display: flex;
  gap: 12px;
  align-items: start;
  flex: 1;
}
form :deep(.v-input) {
  max-width: 320px;
}
form .v-btn {
  height: 40px;
}
</style>
