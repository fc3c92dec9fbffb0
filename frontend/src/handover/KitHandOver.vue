<script setup lang="ts">
import { computed, reactive, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'

import type { FormView, KitView, LinkView } from '@/api/client'
import { makeLink, revokeLink, useChoices, useEditions, useLinks } from '@/api/proving'
import { complain, copy, say } from '@/frame/notices'
import { useMe } from '@/frame/session'
import ChoiceRow from '@/parts/ChoiceRow.vue'
import EmptyState from '@/parts/EmptyState.vue'
import NumberField from '@/parts/NumberField.vue'
import PickOne from '@/parts/PickOne.vue'
import TickBox from '@/parts/TickBox.vue'
import FormList from './FormList.vue'

const props = defineProps<{ kit: KitView }>()
const route = useRoute()
const router = useRouter()
const kitId = computed(() => props.kit.id)
const { mayChange } = useMe()
const { data: editions } = useEditions(() => props.kit)
const { data: choices } = useChoices(kitId)
const { data: links } = useLinks(kitId, mayChange)

const number = computed({
  get: () => {
    const asked = Number(route.query['edition'])
    const known = editions.value?.editions.map((one) => one.number) ?? []
    return route.query['edition'] !== undefined && (asked === 0 || known.includes(asked)) ? asked : (known[0] ?? 0)
  },
  set: (edition) => void router.replace({ query: { ...route.query, edition } }),
})

const picked = reactive({ codes: ['hex', 'RGB'], parts: [] as string[], language: 'en' })
watch(choices, (now) => now && !picked.parts.length && (picked.parts = [...now.parts]), { immediate: true })
const shownEditions = computed(() => [
  ...(editions.value?.editions ?? []).map((one) => ({ value: one.number, title: `edition ${one.number}`, words: one.note })),
  { value: 0, title: 'the draft as it stands, not published' },
])
const languages = computed(() => (choices.value?.languages ?? []).map((value) => ({ value, label: LANGUAGES[value] ?? value })))
const LANGUAGES: Record<string, string> = { en: 'English', de: 'Deutsch', fr: 'français' }

function flip(list: string[], one: string, order: string[]): string[] {
  const next = list.includes(one) ? list.filter((entry) => entry !== one) : [...list, one]
  return order.filter((entry) => next.includes(entry))
}
function query(form: FormView): string {
  const found = new URLSearchParams()
  if (form.heeds.includes('codes')) for (const code of picked.codes) found.append('codes', code)
  if (form.heeds.includes('parts')) for (const part of picked.parts) found.append('parts', part)
  if (form.heeds.includes('language')) found.set('language', picked.language)
  return found.toString()
}

const path = computed(() => `/api/kits/${kitId.value}/editions/${number.value}/hand-over`)
const card = computed(() => choices.value?.forms.find((one) => one.form === 'card-png'))

const days = ref(30)
const fresh = ref('')
const withFiles = computed(() => props.kit.sets.filter((one) => one.files))
const chosenSets = ref<string[]>([])
const sharing = ref(false)
async function share(): Promise<void> {
  sharing.value = true
  const made = await makeLink(kitId.value, number.value, days.value, chosenSets.value)
  fresh.value = `${location.origin}${made.path}`
  await copy(fresh.value)
}
async function revoke(link: LinkView): Promise<void> {
  await revokeLink(kitId.value, link.id)
  fresh.value = ''
  say('The link works no longer.')
}
const day = (at: string) => new Date(at).toLocaleDateString([], { dateStyle: 'medium' })
</script>

<template>
  <div v-if="choices && editions" class="over">
    <EmptyState v-if="!kit.colors.length" title="No colors to hand over">
      Sheets, tokens and themes are made of the kit's colors.
      <template #actions><v-btn class="strong" :to="{ name: 'gather', params: { kitId } }">Gather colors</v-btn></template>
    </EmptyState>
    <div v-else class="columns">
      <section class="scrolls" aria-labelledby="over-title">
        <header>
          <h2 id="over-title">{{ kit.name }}</h2>
          <PickOne v-model="number" class="edition" label="Edition" :options="shownEditions" />
        </header>
        <p v-if="!editions.editions.length" class="muted">
          Nothing is published yet, so this is the draft and says so.
          <router-link :to="{ name: 'prove', params: { kitId, view: 'editions' } }">Publish an edition</router-link>
        </p>
        <div class="forms">
          <FormList :forms="choices.forms" :path="path" :query="query" />
          <img v-if="card" class="card" :src="`${path}/card-png?${query(card)}`" alt="The swatch card as it would be handed over" />
        </div>
        <template v-if="mayChange">
          <h2>A page for those outside</h2>
          <p class="muted">
            Shows {{ number ? `edition ${number}` : 'the draft as it is now' }}, and the sets that are ticked in its colors, without signing in,
            to whoever has the link.
          </p>
          <fieldset v-if="withFiles.length" class="sets">
            <legend>Sets</legend>
            <TickBox
              v-for="one in withFiles"
              :key="one.id"
              :model-value="chosenSets.includes(one.id)"
              @update:model-value="chosenSets = flip(chosenSets, one.id, withFiles.map((set) => set.id))"
            >
              {{ one.name }} <span class="muted small">{{ one.files }}</span>
            </TickBox>
          </fieldset>
          <div class="row">
            <span>works for</span>
            <NumberField v-model="days" label="works for" :min="1" :max="365" unit="days" class="days" />
            <v-btn :disabled="sharing" @click="share().catch(complain).finally(() => (sharing = false))">Make a link and copy it</v-btn>
          </div>
          <p v-if="fresh" role="status">
            <a class="mono fresh" :href="fresh" target="_blank">{{ fresh }}</a>
            <button type="button" class="link" @click="copy(fresh)">copy</button>{{ ' ' }}
            <span class="muted small">told this once; it is kept as a hash only</span>
          </p>
        </template>
        <table v-if="links?.length" class="listing">
          <tbody>
            <tr v-for="link in links" :key="link.id" :class="{ muted: link.state !== 'works' }">
              <th scope="row">{{ link.edition ? `edition ${link.edition}` : 'the draft' }}</th>
              <td class="small">{{ link.sets.join(', ') }}</td>
              <td>{{ link.state === 'works' ? `works until ${day(link.ends_at)}` : link.state }}</td>
              <td class="small muted">{{ link.who }}, {{ day(link.at) }}</td>
              <td><button v-if="link.state === 'works'" type="button" class="link" @click="revoke(link).catch(complain)">revoke</button></td>
            </tr>
          </tbody>
        </table>
      </section>
      <aside class="scrolls" aria-label="What is chosen">
        <fieldset>
          <legend>Codes</legend>
          <TickBox
            v-for="code in choices.codes"
            :key="code"
            :model-value="picked.codes.includes(code)"
            @update:model-value="picked.codes = flip(picked.codes, code, choices.codes)"
          >
            {{ code }}<span v-if="code === 'CMYK'" class="muted small">naive, without a profile</span>
          </TickBox>
        </fieldset>
        <fieldset>
          <legend>Parts</legend>
          <TickBox
            v-for="part in choices.parts"
            :key="part"
            :model-value="picked.parts.includes(part)"
            @update:model-value="picked.parts = flip(picked.parts, part, choices.parts)"
          >
            {{ part }}
          </TickBox>
        </fieldset>
        <fieldset>
          <legend>Language of the notes</legend>
          <ChoiceRow v-model="picked.language" label="Language of the notes" :options="languages" />
        </fieldset>
        <p class="muted small">Sheet, cards, table and text heed these; tokens, CSS and theme hold the whole kit.</p>
      </aside>
    </div>
  </div>
</template>

<style scoped>
.over {
  display: flex;
  flex-direction: column;
  flex: 1;
  min-height: 0;
}
.columns {
  display: flex;
  flex: 1;
  min-height: 0;
}
section {
  display: grid;
  gap: 12px;
  align-content: start;
  flex: 1;
  padding: 14px 16px;
}
header,
.row {
  display: flex;
  gap: 12px;
  align-items: center;
}
.forms {
  display: grid;
  grid-template-columns: minmax(420px, 1fr) minmax(200px, 360px);
  gap: 24px;
  align-items: start;
}
.card {
  width: 100%;
  border: 1px solid var(--rule);
}
.days {
  width: 92px;
}
.sets {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
}
.edition {
  flex: 0 1 420px;
}
.fresh {
  color: inherit;
  margin-right: 10px;
  overflow-wrap: anywhere;
}
aside {
  display: grid;
  gap: 14px;
  align-content: start;
  width: 250px;
  padding: 16px;
  border-left: 1px solid var(--rule);
  background: var(--panel);
}
fieldset {
  display: grid;
  gap: 5px;
  margin: 0;
  padding: 6px 10px 9px;
  border: 1px solid var(--rule);
}
fieldset :deep(.choices label) {
  padding: 4px 8px;
}
legend {
  padding: 0 4px;
  font-weight: 600;
}
</style>
