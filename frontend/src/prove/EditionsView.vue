<script setup lang="ts">
import { computed, ref } from 'vue'

import type { KitView } from '@/api/client'
import { comment, publish, useComments, useCompare, useEditions, useProving, usePublishing, useRecords } from '@/api/proving'
import { complain, say } from '@/frame/notices'
import { useMe } from '@/frame/session'
import PickOne from '@/parts/PickOne.vue'
import TickBox from '@/parts/TickBox.vue'
import DifferenceList from './DifferenceList.vue'

const props = defineProps<{ kit: KitView }>()
const { mayChange, mayDecide } = useMe()
const { data: editions } = useEditions(() => props.kit)
const { data: next } = usePublishing(() => props.kit)
const { restore } = useProving(() => props.kit.id)

const blocked = computed(() => next.value?.unresolved.some((one) => one.blocks) ?? true)
const others = computed(() => next.value?.unresolved.filter((one) => !one.blocks) ?? [])
const note = ref('')
const knows = ref(false)
async function put(): Promise<void> {
  const made = await publish(props.kit.id, note.value)
  note.value = ''
  knows.value = false
  old.value = made.number
  say(`Edition ${made.number} is published.`)
}

/** 0 is the draft. */
const old = ref<number>()
const now = ref(0)
const from = computed(() => old.value ?? editions.value?.editions[0]?.number ?? 0)
const { data: compared } = useCompare(() => props.kit, from, now)
const names = computed(() => [
  { value: 0, title: 'the draft' },
  ...(editions.value?.editions ?? []).map((one) => ({ value: one.number, title: `edition ${one.number}`, words: one.note })),
])
async function bringBack(number: number): Promise<void> {
  await restore.mutateAsync(number)
  say(`Edition ${number} is the draft again; this can be undone.`)
}

const { data: records } = useRecords(() => props.kit)
const { data: comments } = useComments(() => props.kit.id)
const words = ref('')
async function speak(): Promise<void> {
  if (!words.value.trim()) return
  await comment(props.kit.id, '', words.value.trim())
  words.value = ''
}
const when = (at: string) => new Date(at).toLocaleString([], { dateStyle: 'medium', timeStyle: 'short' })
</script>

<template>
  <div v-if="editions && next" class="editions">
    <section class="scrolls main">
      <form v-if="mayChange" class="publish" @submit.prevent="put().catch(complain)">
        <h2>Publish edition {{ next.number }}</h2>
        <ul v-if="blocked" class="findings">
          <li v-for="one in next.unresolved.filter((found) => found.blocks)" :key="one.text"><strong>{{ one.text }}</strong></li>
        </ul>
        <p v-else-if="next.unchanged" class="muted">Nothing has changed since edition {{ next.number - 1 }}.</p>
        <details v-if="others.length" :open="!blocked && !next.unchanged">
          <summary>{{ others.length }} {{ others.length === 1 ? 'thing is' : 'things are' }} unresolved</summary>
          <ul class="findings">
            <li v-for="one in others" :key="one.text">{{ one.text }}</li>
          </ul>
        </details>
        <template v-if="!blocked && !next.unchanged">
          <TickBox v-if="others.length" v-model="knows">I know, and publish all the same</TickBox>
          <div class="row">
            <v-text-field v-model="note" class="field wide" maxlength="2000" placeholder="A note: what is new, and for whom" aria-label="Note to the edition" />
            <v-btn class="strong" type="submit" :disabled="others.length > 0 && !knows">Publish</v-btn>
          </div>
        </template>
      </form>
      <h2>Editions</h2>
      <p v-if="!editions.editions.length" class="muted">None yet. An edition is a state of the kit that stays as it is.</p>
      <table v-else class="listing">
        <tbody>
          <tr v-for="one in editions.editions" :key="one.number">
            <th scope="row">Edition {{ one.number }}</th>
            <td>
              <span class="chips" aria-hidden="true"><i v-for="(hex, at) in one.colors.slice(0, 16)" :key="at" :style="{ background: hex }" /></span>
            </td>
            <td>{{ one.note || '—' }}</td>
            <td class="small muted">{{ one.who }}, {{ when(one.at) }}<br /><span v-hint="one.digest" class="mono">{{ one.digest.slice(0, 12) }}</span></td>
            <td class="acts">
              <router-link :to="{ name: 'hand-over-kit', params: { kitId: kit.id }, query: { edition: one.number } }">hand over</router-link>
              <button v-if="mayChange" type="button" class="link" @click="bringBack(one.number).catch(complain)">restore</button>
            </td>
          </tr>
        </tbody>
      </table>
      <template v-if="editions.editions.length">
        <header class="row">
          <h2>Compare</h2>
          <PickOne class="edition" label="Before" :model-value="from" :options="names" @update:model-value="(number) => (old = number)" />
          with
          <PickOne v-model="now" class="edition" label="After" :options="names" />
        </header>
        <DifferenceList v-if="compared" :differences="compared.differences" />
      </template>
    </section>
    <aside class="scrolls">
      <h2>Comments</h2>
      <form v-if="mayDecide" class="row" @submit.prevent="speak().catch(complain)">
        <v-text-field v-model="words" class="field wide" maxlength="2000" placeholder="Say something about the kit" aria-label="Comment" />
        <v-btn type="submit">Send</v-btn>
      </form>
      <p v-for="(one, at) in comments?.slice(0, 12)" :key="at" class="small">
        <strong>{{ one.who }}</strong> <span v-if="one.about" class="muted">on {{ one.about }}:</span> {{ one.text }}
      </p>
      <h2>The record</h2>
      <p class="muted small">Who changed what; nothing is ever taken out of it.</p>
      <details v-for="record in records" :key="record.id" class="small">
        <summary><strong>{{ record.what }}</strong> <span class="muted">{{ record.who }}, {{ when(record.at) }}</span></summary>
        <p v-for="change in record.changes" :key="change.place">{{ change.place }}: {{ change.before }} → {{ change.after }}</p>
      </details>
    </aside>
  </div>
</template>

<style scoped>
.editions {
  display: flex;
  flex: 1;
  min-height: 0;
  margin-top: 10px;
  border-top: 1px solid var(--hair);
}
.main {
  display: grid;
  gap: 12px;
  align-content: start;
  flex: 1;
  padding: 14px 16px;
}
.publish {
  display: grid;
  gap: 9px;
  padding: 14px 18px;
  border: 1px solid var(--rule);
  border-left: 4px solid var(--ink);
  background: var(--panel);
}
.findings {
  display: grid;
  gap: 4px;
  margin-top: 4px;
}
.edition {
  flex: 0 0 150px;
}
.row,
.acts {
  display: flex;
  gap: 10px;
  align-items: center;
}
.wide {
  flex: 1;
}
.chips {
  display: inline-flex;
}
.chips i {
  width: 14px;
  height: 22px;
}
.acts a {
  color: inherit;
}
aside {
  display: grid;
  gap: 7px;
  align-content: start;
  width: 340px;
  padding: 14px 16px;
  border-left: 1px solid var(--rule);
  background: var(--panel);
}
details p {
  padding: 2px 0 0 14px;
  overflow-wrap: anywhere;
}
</style>
