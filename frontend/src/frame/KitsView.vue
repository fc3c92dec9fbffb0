<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'

import { client, form, queryClient, taken } from '@/api/client'
import { useAccept } from '@/api/formats'
import { useKits } from '@/api/queries'
import FileDrop from '@/parts/FileDrop.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { complain, say } from './notices'
import { useMe } from './session'

const accept = useAccept('kit')

const { data: kits, error, refetch } = useKits()
const { mayChange } = useMe()
const router = useRouter()
const notes = ref<string[]>([])
const shown = computed(() => [...(kits.value ?? [])].sort((a, b) => Number(a.archived) - Number(b.archived)))

const again = () => queryClient.invalidateQueries({ queryKey: ['kits'] })

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
        <table class="listing">
          <thead>
            <tr>
              <th scope="col">kit</th>
              <th scope="col">colors</th>
              <th scope="col">standing</th>
              <th scope="col"><span class="unseen">actions</span></th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="kit in shown" :key="kit.id" :class="{ muted: kit.archived }">
              <th scope="row"><router-link :to="`/kits/${kit.id}/compose`">{{ kit.name }}</router-link></th>
              <td>
                <span class="chips" aria-hidden="true">
                  <i v-for="(hex, at) in kit.colors.slice(0, 24)" :key="at" :style="{ background: hex }" />
                </span>
                {{ kit.colors.length }}
              </td>
              <td>{{ kit.active ? 'active: opened first' : kit.archived ? 'in the archive' : '' }}</td>
              <td class="acts">
                <template v-if="mayChange">
                  <button v-if="!kit.active && !kit.archived" type="button" class="link" @click="activate(kit.id).catch(complain)">
                    make active
                  </button>
                  <button type="button" class="link" @click="copyOf(kit.id, kit.name).catch(complain)">copy</button>
                  <button v-if="!kit.active" type="button" class="link" @click="archive(kit.id, !kit.archived).catch(complain)">
                    {{ kit.archived ? 'take out of the archive' : 'archive' }}
                  </button>
                </template>
              </td>
            </tr>
          </tbody>
        </table>
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
th a {
  color: inherit;
}
.chips {
  display: inline-flex;
  margin-right: 8px;
  vertical-align: middle;
}
.chips i {
  width: 14px;
  height: 16px;
}
.acts {
  display: flex;
  gap: 14px;
}
</style>
