<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core'
import { computed, onBeforeUnmount, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'

import type { KitView, ProposalView, Role } from '@/api/client'
import { askProposals, useComposing, useThemes } from '@/api/composing'
import { useKitChanges } from '@/api/kits'
import { complain, say } from '@/frame/notices'
import { plain } from '@/parts/picking'
import PickOne from '@/parts/PickOne.vue'
import { ROLE_NAMES } from '@/parts/roles'
import TickBox from '@/parts/TickBox.vue'
import ProposalCard from './ProposalCard.vue'

/** Proposals for what is missing. The wish stands in the address, so that a gallery can be found again. */
const props = defineProps<{ kit: KitView }>()
const route = useRoute()
const router = useRouter()
const { data: themes } = useThemes()
const { take } = useComposing(() => props.kit.id)
const { add } = useKitChanges(() => props.kit.id)

const query = (name: string) => (typeof route.query[name] === 'string' ? (route.query[name] as string) : undefined)
const roles = ref<Role[]>((query('roles')?.split(',') ?? []).filter((role): role is Role => (ROLE_NAMES as string[]).includes(role)))
if (!roles.value.length) roles.value = missing()
const dropped = ref(new Set((query('without') ?? '').split(',').filter(Boolean)))
const theme = ref(query('theme') ?? 'plain words')
const seed = ref(query('seed') ?? '1')

/** What the kit lacks most: an action color, a dark and a light ground for text; failing that, two accents. */
function missing(): Role[] {
  const have = new Set(props.kit.colors.map((color) => color.role))
  const wanted: Role[] = []
  if (!have.has('primary') && !have.has('secondary')) wanted.push('primary')
  if (!have.has('action')) wanted.push('action')
  if (!have.has('background')) wanted.push('background')
  if (!have.has('text dark')) wanted.push('text dark')
  if (!have.has('neutral')) wanted.push('neutral')
  return wanted.length ? wanted : ['accent', 'accent']
}

const keep = computed(() => props.kit.colors.map((color) => color.key).filter((key) => !dropped.value.has(key)))
const proposals = ref<ProposalView[]>([])
const following = ref('')
const asking = ref(false)

type Order = 'seed' | 'readable' | 'action' | 'lightness' | 'family' | 'hues'
const order = ref<Order>('seed')
const ORDERS: { value: Order; label: string; by: (a: ProposalView, b: ProposalView) => number }[] = [
  { value: 'seed', label: 'as they came', by: () => 0 },
  { value: 'readable', label: 'readable pairs gained', by: (a, b) => b.readable_gained - a.readable_gained },
  { value: 'action', label: 'distance of the action color', by: (a, b) => (b.action_distance ?? 0) - (a.action_distance ?? 0) },
  { value: 'lightness', label: 'spread of lightness', by: (a, b) => b.lightness_spread - a.lightness_spread },
  { value: 'family', label: 'family fit', by: (a, b) => b.family_fit - a.family_fit },
  { value: 'hues', label: 'how near to a scheme', by: (a, b) => a.miss - b.miss },
]
const sorted = computed(() => [...proposals.value].sort(ORDERS.find((entry) => entry.value === order.value)!.by))

function wish() {
  return { keep: keep.value, roles: roles.value, first: seed.value.trim() || '1', theme: theme.value }
}

/** The wish that the proposals in sight answer; what was changed since waits for the next asking. */
const answered = ref(wish())

/** Which asking is the last one: an earlier one that answers later is not shown. */
let turn = 0
/** Nor is one that answers when something else is seen: the address is that of the other view by then. */
let gone = false
onBeforeUnmount(() => (gone = true))
async function propose(from?: string): Promise<void> {
  if (from) seed.value = from
  if (!roles.value.length) return
  asking.value = true
  const mine = ++turn
  try {
    const asked = { ...wish(), roles: [...roles.value] }
    const found = await askProposals(props.kit.id, asked)
    if (gone || mine !== turn) return
    answered.value = asked
    proposals.value = found.proposals
    following.value = found.following
    await router.replace({
      params: route.params,
      query: { roles: roles.value.join(','), without: [...dropped.value].join(','), theme: theme.value, seed: wish().first },
    })
  } catch (error) {
    proposals.value = []
    complain(error)
  }
  asking.value = false
}
void propose()
// They follow what is wished for and what the kit is by now, be it by an undo; the seed stays.
const follow = useDebounceFn(() => propose(), 250)
watch([theme, roles, keep, () => props.kit.history.revision], () => void follow(), { deep: true })

function takeIt(proposal: ProposalView, only: number | null): void {
  take.mutateAsync({ ...answered.value, first: proposal.seed, only }).then(async (kit) => {
    if (only !== null) {
      const name = proposal.new[only]!.name
      say(`${name} added`)
      roles.value.splice(roles.value.indexOf(proposal.new[only]!.role), 1)
      if (!roles.value.length) roles.value = ['accent']
      return
    }
    say(`Proposal ${proposal.seed} taken: ${kit.colors.length} colors`)
    await router.push({ name: 'compose', params: { kitId: kit.id, view: '' } })
  }, complain)
}

/** A proposed color, mixed a little: it goes in as it is now, under the name it was proposed with. */
function takeMixed(color: ProposalView['new'][number], hex: string): void {
  add.mutateAsync([{ name: color.name, role: color.role, code: hex }]).then(() => {
    say(`${color.name} added as ${hex}`)
    roles.value.splice(roles.value.indexOf(color.role), 1)
    if (!roles.value.length) roles.value = ['accent']
  }, complain)
}

function toggle(key: string): void {
  const now = new Set(dropped.value)
  if (!now.delete(key)) now.add(key)
  dropped.value = now
}
</script>

<template>
  <section class="gaps" aria-labelledby="gaps-title">
    <form class="wish scrolls" @submit.prevent="propose()">
      <h1 id="gaps-title">Fill the gaps</h1>
      <fieldset v-if="kit.colors.length">
        <legend class="muted">keep</legend>
        <TickBox v-for="color in kit.colors" :key="color.key" :model-value="!dropped.has(color.key)" :aria-label="`Keep ${color.name}`" @update:model-value="toggle(color.key)">
          <span class="keep"><i :style="{ background: color.hex }" /> {{ color.name }}</span>
        </TickBox>
      </fieldset>
      <fieldset>
        <legend class="muted">missing</legend>
        <div v-for="(role, at) in roles" :key="at" class="role">
          <PickOne v-model="roles[at]" :label="`Role of missing color ${at + 1}`" :options="plain(ROLE_NAMES)" />
          <button type="button" class="link" :aria-label="`Not ${role} after all`" @click="roles.splice(at, 1)">not this</button>
        </div>
        <div class="more">
          <button type="button" class="link" :disabled="roles.length >= 12" @click="roles.push('neutral')">a quiet neutral</button>
          <button type="button" class="link" :disabled="roles.length >= 12" @click="roles.push('action')">an action color</button>
          <button type="button" class="link" :disabled="roles.length >= 11" @click="roles.push('accent', 'accent')">2 more</button>
        </div>
      </fieldset>
      <div class="line">
        names from
        <PickOne v-model="theme" label="Theme of the names" :options="plain(themes ?? [])" />
      </div>
      <div class="line">
        seed
        <v-text-field v-model="seed" class="field mono" aria-label="Seed of the first proposal" maxlength="60" spellcheck="false" />
      </div>
      <div class="ask">
        <v-btn type="submit" class="strong" :disabled="asking || !roles.length">Propose</v-btn>
        <v-btn :disabled="asking || !following" @click="propose(following)">Nine others</v-btn>
      </div>
      <p class="muted small">The same kit, wish and seed give the same colors: note a seed to find a proposal again.</p>
    </form>
    <div class="gallery">
      <header>
        <h2>{{ proposals.length }} proposals</h2>
        <span v-if="asking" class="muted" role="status">proposing…</span>
        <span class="small sorted">sorted by</span>
        <PickOne v-model="order" class="order" label="Sorted by" :options="ORDERS.map((entry) => ({ value: entry.value, title: entry.label }))" />
      </header>
      <div class="scrolls">
        <ul class="cards">
          <ProposalCard
            v-for="proposal in sorted"
            :key="proposal.seed"
            :proposal="proposal"
            :samples="kit.samples"
            @take="takeIt(proposal, null)"
            @one="takeIt(proposal, $event)"
            @mixed="(at, hex) => takeMixed(proposal.new[at]!, hex)"
            @like="propose(`${proposal.seed}.1`)"
          />
        </ul>
      </div>
    </div>
  </section>
</template>

<style scoped>
.gaps {
  display: flex;
  flex: 1;
  min-height: 0;
  margin-top: 10px;
  border-top: 1px solid var(--rule);
}
.wish {
  display: flex;
  flex-direction: column;
  gap: 8px;
  flex: none;
  width: 224px;
  padding: 10px 14px 10px 16px;
  border-right: 1px solid var(--rule);
  background: var(--panel);
}
.wish > * {
  flex: none;
}
fieldset {
  display: grid;
  gap: 4px;
  padding: 0;
  border: 0;
}
.keep,
.role,
.line {
  display: flex;
  gap: 6px;
  align-items: center;
  font-size: 13px;
}
.keep i {
  width: 18px;
  height: 14px;
}
.line .field,
.role .field {
  flex: 1;
}
.more {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 12px;
  font-size: 13px;
}
.ask {
  display: flex;
  gap: 6px;
}
.gallery {
  display: flex;
  flex-direction: column;
  flex: 1;
  min-width: 0;
  min-height: 0;
}
header {
  display: flex;
  gap: 14px;
  align-items: center;
  padding: 8px 16px;
}
.sorted {
  margin-left: auto;
}
.order {
  flex: 0 0 200px;
}
.gallery .scrolls {
  flex: 1;
}
.cards {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(236px, 1fr));
  gap: 8px;
  padding: 0 16px 16px;
}
</style>
