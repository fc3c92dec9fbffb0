<script setup lang="ts">
import { computed, reactive, watch } from 'vue'
import { useRoute } from 'vue-router'

import type { ExportView, KitView } from '@/api/client'
import { isOpen, useExporting, useExports, type Wanted } from '@/api/exports'
import { complain } from '@/frame/notices'
import { useMe } from '@/frame/session'
import { baseTokens } from '@/parts/picking'
import PickOne from '@/parts/PickOne.vue'
import ProblemNote from '@/parts/ProblemNote.vue'

/** A set in other forms: ordered, made in the background, fetched when it is done. */
const props = defineProps<{ kit: KitView; setId: string }>()
const { data, error, refetch } = useExports(() => props.setId)
const { order, cancel } = useExporting(() => props.setId)
const { mayChange } = useMe()
/** A word of the form that a link which led here asks for, until it was chosen. */
let sought = useRoute().query['form']

const SIZES = [16, 24, 32, 48, 64, 128, 256, 512, 1024]
const wanted = reactive({
  forms: ['PNG'] as string[],
  sizes: [64] as number[],
  scales: [1] as number[],
  ground: '',
  motion: '',
  pattern: '{name}-{size}@{scale}x',
})
// What was chosen for another set, and nothing in this one is made into, is chosen no more.
watch(
  () => data.value?.forms,
  (forms) => {
    if (!forms) return
    const offered = forms.map((one) => one.form as string)
    const first = typeof sought === 'string' ? offered.find((form) => form.toLowerCase().includes(sought as string)) : undefined
    sought = null
    if (first) wanted.forms = [first]
    const still = wanted.forms.filter((form) => offered.includes(form))
    wanted.forms = still.length ? still : [offered.find((form) => form === 'PNG') ?? offered[0]!]
  },
  { immediate: true },
)
const pictures = computed(() => data.value?.forms.some((one) => one.sized && wanted.forms.includes(one.form)) ?? true)
const STATES: Record<ExportView['state'], string> = {
  waiting: 'waiting for a worker',
  running: 'being made',
  done: 'ready',
  failed: 'could not be made',
  cancelled: 'cancelled',
}

const motions = computed(() => [
  { value: '', title: 'stay still' },
  ...(data.value?.motions ?? []).map((one) => ({ value: one.motion as string, title: one.motion, words: one.words })),
])

function send(): void {
  const body = { ...wanted, ground: wanted.ground || null, motion: wanted.motion || null } as unknown as Wanted
  order.mutateAsync(body).catch(complain)
}

const when = (one: ExportView) => new Date(one.made_at).toLocaleTimeString([], { hour: '2-digit', minute: '2-digit' })
</script>

<template>
  <section class="export" aria-labelledby="export-title">
    <h2 id="export-title">In other forms</h2>
    <ProblemNote v-if="error" :error="error" @again="refetch()" />
    <ul v-if="data?.exports.length" aria-label="Exports">
      <li v-for="one in data.exports" :key="one.id">
        <p>
          <strong>{{ one.wanted.forms?.join(', ') }}</strong>
          <span class="muted small"> {{ when(one) }}, {{ one.who }}</span>
        </p>
        <div class="line" role="status">
          <v-progress-linear v-if="isOpen(one)" class="bar" :model-value="one.done" :max="one.total" :aria-label="`${one.done} of ${one.total} made`" />
          <span>{{ STATES[one.state] }}<template v-if="isOpen(one)">, {{ one.done }} of {{ one.total }}</template></span>
          <span class="gap" />
          <v-btn v-if="isOpen(one)" @click="cancel.mutateAsync(one.id).catch(complain)">Cancel</v-btn>
          <v-btn v-if="one.state === 'done'" :href="`/api/exports/${one.id}/result.zip`">Download</v-btn>
        </div>
        <details v-if="one.notes.length" class="small">
          <summary>{{ one.notes.length }} not made</summary>
          <p v-for="note in one.notes" :key="note">{{ note }}</p>
        </details>
      </li>
    </ul>
    <form v-if="data" @submit.prevent="send">
      <fieldset :disabled="!mayChange">
        <legend class="unseen">Forms</legend>
        <v-checkbox-btn v-for="one in data.forms" :key="one.form" v-model="wanted.forms" :value="one.form">
          <template #label><span><strong>{{ one.form }}</strong> <span class="muted small">{{ one.words }}</span></span></template>
        </v-checkbox-btn>
      </fieldset>
      <template v-if="pictures">
        <fieldset class="row" :disabled="!mayChange">
          <legend>Pixels</legend>
          <v-checkbox-btn v-for="size in SIZES" :key="size" v-model="wanted.sizes" class="mono" inline :value="size" :label="`${size}`" />
        </fieldset>
        <fieldset class="row" :disabled="!mayChange">
          <legend>Times</legend>
          <v-checkbox-btn v-for="scale in [1, 2, 3, 4]" :key="scale" v-model="wanted.scales" class="mono" inline :value="scale" :label="`${scale}x`" />
        </fieldset>
        <div class="row">
          <div class="labelled">
            <span>Ground</span>
            <PickOne v-model="wanted.ground" label="Ground of the pictures" :options="[{ value: '', title: 'transparent' }, ...baseTokens(kit.colors)]" />
          </div>
          <div v-if="data.forms.some((one) => one.in_motion)" class="labelled">
            <span>Still files, as animations</span>
            <PickOne v-model="wanted.motion" label="Motion of still files" :options="motions" />
          </div>
          <label class="labelled pattern">
            <span>Names</span>
            <v-text-field v-model="wanted.pattern" class="field mono" aria-label="Pattern of the names" maxlength="80" spellcheck="false" />
          </label>
        </div>
      </template>
      <v-btn
        class="strong"
        type="submit"
        :disabled="!mayChange || order.isPending.value || !wanted.forms.length || !wanted.sizes.length || !wanted.scales.length"
      >
        Make them
      </v-btn>
    </form>
  </section>
</template>

<style scoped>
.export,
form {
  display: grid;
  gap: 8px;
  justify-items: start;
  width: 100%;
}
fieldset {
  display: grid;
  gap: 3px;
  padding: 0;
  border: 0;
  margin: 0;
}
fieldset.row,
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 10px;
  align-items: end;
}
.labelled {
  display: grid;
  gap: 2px;
  min-width: 150px;
}
.pattern .field {
  width: 210px;
}
ul {
  width: 100%;
  padding-bottom: 8px;
  border-bottom: 1px solid var(--rule);
}
li {
  display: grid;
  gap: 4px;
  padding: 6px 0;
  border-top: 1px solid var(--hair);
}
.line {
  display: flex;
  gap: 8px;
  align-items: center;
}
.gap {
  flex: 1;
}
.bar {
  flex: 0 1 90px;
}
</style>
