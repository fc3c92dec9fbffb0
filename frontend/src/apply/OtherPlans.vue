<script setup lang="ts">
import { ref } from 'vue'

import type { SetView } from '@/api/client'
import { pictureUrl } from '@/api/files'
import { useAlternatives } from '@/api/plans'
import { useSetChanges } from '@/api/sets'
import { complain, say } from '@/frame/notices'
import ProblemNote from '@/parts/ProblemNote.vue'
import SteadyImage from '@/parts/SteadyImage.vue'
import PlanFigures from './PlanFigures.vue'

/** Several plans side by side, each on the set itself, before one is taken. */
const props = defineProps<{ set: SetView; ground: string }>()
const open = defineModel<boolean>({ required: true })
const { data, error, isFetching, refetch } = useAlternatives(() => props.set, open)
const changes = useSetChanges(() => props.set.id)

const busy = ref(false)

async function take(index: number, title: string): Promise<void> {
  busy.value = true
  await changes.choose.mutateAsync(index).then(() => say(`The plan is now “${title}”`), complain)
  busy.value = false
  open.value = false
}
</script>

<template>
  <v-dialog v-model="open" max-width="1140" aria-label="Other plans">
    <section class="sheet plans">
      <header>
        <h2>Plans for {{ set.name }}</h2>
        <span class="muted">what was chosen by hand is kept in each</span>
        <span class="gap" />
        <v-btn class="strong" @click="open = false">Close</v-btn>
      </header>
      <ProblemNote v-if="error" :error="error" @again="refetch()" />
      <p v-else-if="!data" class="muted" role="status">{{ isFetching ? 'Making plans…' : '' }}</p>
      <ol v-else class="scrolls" :class="{ whole: set.reading }" tabindex="0" aria-label="Plans">
        <li v-for="one in data.alternatives" :key="one.index" :aria-label="one.title">
          <div class="said">
            <h3>{{ one.index + 1 }}. {{ one.title }}</h3>
            <p v-if="set.reading" class="small" :class="{ lost: one.lost }">
              {{ one.lost ? `${one.lost} ${one.lost === 1 ? 'text reads' : 'texts read'} less well than before` : 'every text reads as well as before' }}
            </p>
            <PlanFigures v-else :figures="one.figures" />
            <v-btn :disabled="busy || one.index === 0" @click="take(one.index, one.title)">
              {{ one.index === 0 ? 'In force' : 'Take this plan' }}
            </v-btn>
          </div>
          <div class="strip" :style="{ background: ground }">
            <span v-for="(asset, at) in set.reading ? data.files.slice(0, 3) : data.files" :key="asset.id" class="thumb">
              <SteadyImage
                :src="
                  pictureUrl(
                    { id: asset.id, fingerprint: one.fingerprints[at]! },
                    { size: set.reading ? 320 : 96, of: set.id, alternative: one.index || undefined },
                  )
                "
                :alt="asset.name"
              />
            </span>
          </div>
        </li>
      </ol>
    </section>
  </v-dialog>
</template>

<style scoped>
.plans {
  display: flex;
  flex-direction: column;
  gap: 10px;
  padding: 16px;
  max-height: 92vh;
}
header {
  display: flex;
  gap: 12px;
  align-items: center;
}
.gap {
  flex: 1;
}
li {
  display: grid;
  grid-template-columns: 274px 1fr;
  gap: 16px;
  align-items: center;
  padding: 8px 0;
  border-top: 1px solid var(--hair);
}
/* Whole mails side by side, each plan a column of them. */
.whole {
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: 16px;
}
.whole li {
  grid-template-columns: minmax(0, 1fr);
  align-content: start;
  gap: 8px;
}
.whole .strip {
  grid-template-columns: repeat(2, minmax(0, 1fr));
  align-items: start;
}
.whole .thumb {
  height: auto;
}
.whole .thumb:first-child {
  grid-column: 1 / -1;
}
.lost {
  font-weight: 600;
}
.said {
  display: grid;
  gap: 6px;
  justify-items: start;
}
h3 {
  font-size: 14px;
}
.strip {
  display: grid;
  grid-template-columns: repeat(12, 1fr);
  gap: 6px;
  padding: 8px;
  border: 1px solid var(--hair);
  min-height: 82px;
}
.thumb {
  display: grid;
  place-items: center;
  min-width: 0;
  height: 62px;
}
</style>
