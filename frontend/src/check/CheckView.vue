<script setup lang="ts">
import { computed } from 'vue'
import { useRoute } from 'vue-router'

import type { StrangePaint } from '@/api/client'
import { pictureUrl } from '@/api/files'
import { useKit } from '@/api/kits'
import { useCheck, useSetChanges } from '@/api/sets'
import SetBar from '@/apply/SetBar.vue'
import { complain, say } from '@/frame/notices'
import HandedFiles from '@/parts/HandedFiles.vue'
import EmptyState from '@/parts/EmptyState.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import SteadyImage from '@/parts/SteadyImage.vue'
import SwatchBox from '@/parts/SwatchBox.vue'
import TextReadings from '@/parts/TextReadings.vue'

const route = useRoute()
const kitId = computed(() => route.params.kitId as string)
const { data: kit } = useKit(kitId)
const setId = computed(() => (route.params.setId as string) || kit.value?.sets[0]?.id)
const { data: check, error, isFetching, refetch } = useCheck(setId)
const { aim } = useSetChanges(setId)

/** Each file once, by the worst it holds. */
const counts = computed(() => {
  const { clean = 0, natural = 0, wanted = 0, off = 0 } = check.value ?? {}
  return [
    { count: off, words: 'off the kit' },
    { count: wanted, words: 'with paint that was kept or chosen on purpose' },
    { count: natural, words: 'with natural tones' },
    { count: clean, words: 'only of the kit' },
  ].filter((one) => one.count)
})

function remedy(paint: StrangePaint): void {
  if (!paint.nearest) return
  aim
    .mutateAsync({ paints: paint.sources, target: paint.nearest })
    .then(() => say(`${paint.key} now goes to ${paint.nearest_name}, in every file of the set`), complain)
}
</script>

<template>
  <div class="check">
    <SetBar v-if="kit?.sets.length" :kit="kit" :set-id="setId" view="check" />
    <EmptyState v-if="kit && !setId" title="Nothing to check yet">
      Files that were made ours are checked here, each as it would be handed over.
      <template #actions>
        <v-btn class="strong" :to="{ name: 'apply', params: { kitId } }">Bring files</v-btn>
      </template>
    </EmptyState>
    <ProblemNote v-else-if="error" :error="error" @again="refetch()" />
    <header v-else-if="!check"><h1>Checking…</h1></header>
    <template v-else>
      <header>
        <h1 v-if="!check.files">This set is empty</h1>
        <h1 v-else-if="check.clean === check.files">
          {{ check.files === 1 ? 'The file holds' : `All ${check.files} files hold` }} only colors of the kit
        </h1>
        <h1 v-else-if="check.off">
          {{ check.off }} of {{ check.files }} {{ check.files === 1 ? 'file holds' : 'files hold' }} paint that is off the kit
        </h1>
        <h1 v-else>Nothing is off the kit but what is meant to be</h1>
        <p v-if="check.clean !== check.files" class="counts">
          <span v-for="one in counts" :key="one.words"><strong class="mono">{{ one.count }}</strong> {{ one.words }}</span>
        </p>
        <p v-if="check.unread" class="unread">
          {{ check.unread }} {{ check.unread === 1 ? 'file has' : 'files have' }} a text that reads worse than it did
        </p>
        <p v-for="(count, has) in check.others" :key="has" class="unread">
          {{ count }} {{ count === 1 ? 'file has' : 'files have' }} {{ has }};
          <router-link :to="{ name: 'apply', params: { kitId, setId } }">remedies are with the plan</router-link>
        </p>
        <p v-if="check.files" class="muted">each file was recolored, written and read again; a difference (CIEDE2000) below 1 counts as ours</p>
        <span v-if="isFetching" class="muted" role="status">checking…</span>
      </header>
      <div class="scrolls">
        <table v-if="check.findings.length" class="listing">
          <thead v-if="check.findings.some((file) => file.paints.length)">
            <tr>
              <th scope="col">file</th>
              <th scope="col">not of the kit</th>
              <th scope="col">places</th>
              <th scope="col">how far off</th>
              <th scope="col">nearest in the kit</th>
              <th scope="col">remedy</th>
            </tr>
          </thead>
          <tbody v-for="file in check.findings" :key="file.asset">
            <tr v-for="(paint, at) in file.paints" :key="paint.key">
              <th v-if="at === 0" scope="row" :rowspan="file.paints.length">
                <span class="file">
                  <span class="thumb">
                    <SteadyImage :src="pictureUrl({ id: file.asset, fingerprint: file.fingerprint }, { size: 80, of: setId! })" alt="" />
                  </span>
                  {{ file.name }}
                </span>
              </th>
              <td>
                <SwatchBox :css="paint.hex" :size="24" /> <span class="mono">{{ paint.key }}</span>
              </td>
              <td class="mono">{{ paint.sites }}</td>
              <td>
                <strong v-if="paint.severity === 'off'">off</strong><span v-else>near</span>{{ ' ' }}
                <span v-if="paint.difference" class="mono">{{ paint.difference }}</span>
                <span v-if="paint.chosen" class="muted">, chosen by hand</span>
                <span v-else-if="paint.natural" class="muted">, kept: may be {{ paint.natural }}</span>
              </td>
              <td>
                <template v-if="paint.nearest_hex">
                  <SwatchBox :css="paint.nearest_hex" :size="24" /> {{ paint.nearest_name }}
                </template>
              </td>
              <td>
                <v-btn v-if="paint.nearest" :disabled="aim.isPending.value" @click="remedy(paint)">
                  Use {{ paint.nearest_name }}
                </v-btn>
              </td>
            </tr>
            <tr v-if="file.texts.length">
              <th scope="row">{{ file.paints.length ? '' : file.name }}</th>
              <td colspan="5">
                <TextReadings :texts="file.texts" />
              </td>
            </tr>
            <tr v-for="(one, at) in file.others" :key="one.text">
              <th scope="row">{{ at || file.paints.length || file.texts.length ? '' : file.name }}</th>
              <td colspan="5" class="remark">
                <SwatchBox v-for="(color, place) in one.colors" :key="place" :css="color" :size="24" />
                <span class="muted">{{ one.has }}:</span> {{ one.text }}
              </td>
            </tr>
            <tr v-for="(remark, at) in file.remarks" :key="remark">
              <th scope="row">{{ at || file.paints.length || file.texts.length || file.others.length ? '' : file.name }}</th>
              <td colspan="5" class="remark">{{ remark }}</td>
            </tr>
          </tbody>
        </table>
        <p v-else-if="check.files" class="clean">
          Nothing is off. <router-link :to="{ name: 'hand-over', params: { kitId, setId } }">Hand it over</router-link>
        </p>
        <p v-if="!check.files" class="clean">
          What is brought to it is checked here, as it would be handed over.
          <router-link :to="{ name: 'apply', params: { kitId, setId } }">Bring files</router-link>
        </p>
        <template v-else>
          <h2>As it is handed over</h2>
          <HandedFiles :key="setId" :set-id="setId!" :total="check.files" />
        </template>
      </div>
    </template>
  </div>
</template>

<style scoped>
.counts {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 18px;
}
.check {
  display: flex;
  flex-direction: column;
  flex: 1;
  min-height: 0;
}
header {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
  align-items: baseline;
  padding: 14px 16px 10px;
}
.scrolls {
  flex: 1;
  padding: 0 16px 16px;
}
.file {
  display: flex;
  gap: 10px;
  align-items: center;
}
.thumb {
  display: grid;
  place-items: center;
  width: 52px;
  height: 52px;
  padding: 4px;
  border: 1px solid var(--hair);
  background: #fff;
}
td :deep(.swatch) {
  vertical-align: middle;
  margin-right: 6px;
}
.unread {
  font-weight: 600;
}
.clean {
  padding: 8px 0;
}
h2 {
  margin-top: 14px;
}
a {
  color: inherit;
}
</style>
