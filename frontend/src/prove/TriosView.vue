<script setup lang="ts">
import { computed, ref } from 'vue'

import type { KitView, Status, TrioView } from '@/api/client'
import { useProving, useTrios } from '@/api/proving'
import { complain, say } from '@/frame/notices'
import { useMe } from '@/frame/session'
import ChoiceRow from '@/parts/ChoiceRow.vue'
import EmptyState from '@/parts/EmptyState.vue'

const props = defineProps<{ kit: KitView }>()
const { data: trios } = useTrios(() => props.kit)
const { decideTrios } = useProving(() => props.kit.id)
const { mayDecide } = useMe()

const only = ref<'all' | Status>('all')
const options = computed(() => {
  const count = (status: Status) => trios.value?.filter((trio) => trio.status === status).length ?? 0
  return [
    { value: 'all' as const, label: 'all', count: trios.value?.length ?? 0 },
    { value: 'open' as const, label: 'open', count: count('open') },
    { value: 'approved' as const, label: 'approved', count: count('approved') },
    { value: 'declined' as const, label: 'declined', count: count('declined') },
  ]
})
const shown = computed(() => trios.value?.filter((trio) => only.value === 'all' || trio.status === only.value) ?? [])

async function put(found: TrioView[], status: Status): Promise<void> {
  const sent = found.map((trio) => ({
    ground: trio.ground.token,
    title: trio.title.token,
    graphic: trio.graphic.token,
  }))
  await decideTrios.mutateAsync({ trios: sent, status })
  say(`${sent.length === 1 ? 'The trio' : `${sent.length} trios`}: ${status}`)
}
</script>

<template>
  <div v-if="trios" class="trios scrolls">
    <EmptyState v-if="!trios.length" title="No trio yet">
      A trio is one ground with a title and a graphic that are both approved on it and told apart. Approve two pairs on
      the same ground, and trios are found here by themselves.
      <template #actions>
        <v-btn class="strong" :to="{ name: 'prove', params: { kitId: kit.id } }">Approve pairs</v-btn>
      </template>
    </EmptyState>
    <template v-else>
      <header>
        <ChoiceRow v-model="only" label="Trios" :options="options" />
        <span class="muted small">each one as unlike those before it as can be</span>
        <template v-if="mayDecide && shown.length">
          <span class="gap" />
          <v-btn class="strong" @click="put(shown, 'approved').catch(complain)">Approve the {{ shown.length }} shown</v-btn>
          <v-btn @click="put(shown, 'open').catch(complain)">Open them</v-btn>
        </template>
      </header>
      <ul>
        <li v-for="trio in shown" :key="`${trio.ground.token} ${trio.title.token} ${trio.graphic.token}`">
          <div class="pair" :style="{ background: trio.ground.hex, color: trio.title.hex }">
            <span class="title">{{ kit.samples.headline }}</span>
            <svg width="46" height="34" viewBox="0 0 46 34" aria-hidden="true" :style="{ color: trio.graphic.hex }">
              <path fill="currentColor" d="M2 22h42l-6 10H9zM21 2v18H8zM24 6l12 14H24z" />
            </svg>
          </div>
          <p class="small">
            <strong>{{ trio.title.name }}</strong> {{ trio.title.ratio }} and
            <strong>{{ trio.graphic.name }}</strong> {{ trio.graphic.ratio }} on
            <strong>{{ trio.ground.name }}</strong>
          </p>
          <p class="acts small">
            <span :class="{ muted: trio.status === 'open' }">{{ trio.status }}</span>
            <template v-if="mayDecide">
              <button v-if="trio.status !== 'approved'" type="button" class="link" @click="put([trio], 'approved').catch(complain)">
                approve
              </button>
              <button v-if="trio.status !== 'declined'" type="button" class="link" @click="put([trio], 'declined').catch(complain)">
                decline
              </button>
              <button v-if="trio.status !== 'open'" type="button" class="link" @click="put([trio], 'open').catch(complain)">
                open
              </button>
            </template>
          </p>
        </li>
      </ul>
    </template>
  </div>
</template>

<style scoped>
.trios {
  flex: 1;
  padding: 12px 16px;
}
header {
  display: flex;
  gap: 8px 12px;
  align-items: center;
  margin-bottom: 12px;
}
.gap {
  flex: 1;
}
ul {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(220px, 1fr));
  gap: 16px;
}
.pair {
  display: flex;
  gap: 10px;
  justify-content: space-between;
  align-items: center;
  height: 92px;
  margin-bottom: 5px;
  padding: 0 16px;
}
.title {
  font-size: 20px;
  font-weight: 700;
  line-height: 1.1;
}
.acts {
  display: flex;
  gap: 12px;
}
</style>
