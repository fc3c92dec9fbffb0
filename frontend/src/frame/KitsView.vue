<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'

import { client, form, queryClient, taken } from '@/api/client'
import type { components } from '@/api/schema'
import { useAccept } from '@/api/formats'
import { allKits, useKits } from '@/api/kits'
import FileDrop from '@/parts/FileDrop.vue'
import PennantShape from '@/parts/PennantShape.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { complain, say } from './notices'
import { useMe } from './session'

type KitEntry = components['schemas']['KitEntry']
const accept = useAccept('kit')

const { data: kits, error, refetch } = useKits()
const { mayChange } = useMe()
const router = useRouter()
const notes = ref<string[]>([])
const shown = computed(() => [...(kits.value ?? [])].sort((a, b) => Number(a.archived) - Number(b.archived)))

/** Pennants of a line that are shown. */
const MOST = 16
const day = (at: string) => new Date(at).toLocaleDateString([], { dateStyle: 'medium' })
function held(kit: KitEntry): string {
  if (!kit.sets.length) return 'no sets'
  return `${kit.sets.length} ${kit.sets.length === 1 ? 'set' : 'sets'}, ${kit.files} ${kit.files === 1 ? 'file' : 'files'}`
}

const again = () => queryClient.invalidateQueries(allKits)

async function activate(kit_id: string): Promise<void> {
  await taken(client.PUT('/api/kits/{kit_id}/active', { params: { path: { kit_id } } }))
  await again()
}

async function archive(kit_id: string, archived: boolean): Promise<void> {
  await taken(client.PUT('/api/kits/{kit_id}/archived', { params: { path: { kit_id } }, body: { archived } }))
  await again()
}

async function copyOf(kit_id: string, name: string): Promise<void> {
  const names = new Set(kits.value?.map((kit) => kit.name))
  let number = 2
  while (names.has(`${name} ${number}`)) number += 1
  const copy = await taken(
    client.POST('/api/kits/{kit_id}/copy', { params: { path: { kit_id } }, body: { name: `${name} ${number}` } }),
  )
  await again()
  say(`Copied as ${copy.name}; its editions begin anew.`)
}

async function bring(files: File[]): Promise<void> {
  const file = files[0]
  if (!file) return
  const body = new FormData()
  body.append('file', file)
  const made = await taken(client.POST('/api/kit-file', form<{ file: string }>(body)))
  await again()
  notes.value = made.notes
  say(`${made.name} came in.`)
  if (!made.notes.length) await router.push({ name: 'compose', params: { kitId: made.id } })
}
</script>

<template>
  <FileDrop :accept="accept" hint="A kit comes in from design tokens, a style, a table or a deck" @files="bring($event).catch(complain)">
    <template #default="{ pick }">
      <div class="kits scrolls">
        <header>
          <h1>Kits</h1>
          <span class="gap" />
          <template v-if="mayChange">
            <v-btn @click="pick">Bring in a tokens file…</v-btn>
            <v-btn class="strong" to="/new">Start a new kit</v-btn>
          </template>
        </header>
        <ProblemNote v-if="error" :error="error" @again="refetch()" />
        <ul v-if="notes.length" class="notes" role="status">
          <li v-for="note in notes" :key="note">{{ note }}</li>
        </ul>
        <ul class="hung">
          <li v-for="kit in shown" :key="kit.id" :class="{ muted: kit.archived }" :aria-label="kit.name">
            <div class="head">
              <h2><router-link :to="`/kits/${kit.id}/compose`">{{ kit.name }}</router-link></h2>
              <span v-if="kit.active || kit.archived" class="state">{{ kit.active ? 'opened first' : 'in the archive' }}</span>
              <span>{{ kit.edition ? `edition ${kit.edition}` : 'nothing published' }}</span>
              <span v-hint="kit.sets.join(', ')">{{ held(kit) }}</span>
              <span class="muted">{{ kit.who }}, {{ day(kit.changed_at) }}</span>
              <span class="gap" />
              <template v-if="mayChange">
                <button v-if="!kit.active && !kit.archived" type="button" class="link" :aria-label="`Open ${kit.name} first`" @click="activate(kit.id).catch(complain)">
                  make active
                </button>
                <button type="button" class="link" :aria-label="`Copy ${kit.name}`" @click="copyOf(kit.id, kit.name).catch(complain)">copy</button>
                <button v-if="!kit.active" type="button" class="link" :aria-label="kit.archived ? `Take ${kit.name} out of the archive` : `Archive ${kit.name}`" @click="archive(kit.id, !kit.archived).catch(complain)">
                  {{ kit.archived ? 'take out of the archive' : 'archive' }}
                </button>
              </template>
            </div>
            <router-link class="line" :to="`/kits/${kit.id}/compose`" tabindex="-1" aria-hidden="true">
              <span v-for="(color, at) in kit.colors.slice(0, MOST)" :key="at" class="hanging">
                <PennantShape :role="color.role" :hex="color.hex" :width="46" />
                <small>{{ color.name }}</small>
              </span>
              <span v-if="kit.colors.length > MOST" class="muted small">and {{ kit.colors.length - MOST }} more</span>
              <span v-if="!kit.colors.length" class="muted small">no colors yet</span>
            </router-link>
          </li>
        </ul>
      </div>
    </template>
  </FileDrop>
</template>

<style scoped>
.kits {
  flex: 1;
  padding: 14px 16px;
}
header {
  display: flex;
  gap: 8px;
  align-items: center;
  margin-bottom: 10px;
}
.gap {
  flex: 1;
}
.notes {
  display: grid;
  gap: 3px;
  margin-bottom: 12px;
  padding: 8px 12px;
  border-left: 4px solid var(--ink);
  background: var(--panel);
}
.hung {
  display: grid;
  gap: 18px;
}
.head {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
  align-items: baseline;
  padding-bottom: 5px;
  border-bottom: 2px solid var(--ink);
}
h2 {
  font-size: 16px;
}
h2 a {
  color: inherit;
}
.state {
  font-weight: 600;
}
.line {
  display: flex;
  gap: 12px;
  height: 52px;
  overflow: hidden;
  color: inherit;
  text-decoration: none;
}
.hanging {
  display: grid;
  justify-items: start;
  align-content: start;
  width: 62px;
}
small {
  max-width: 100%;
  overflow: hidden;
  font-size: 11px;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
