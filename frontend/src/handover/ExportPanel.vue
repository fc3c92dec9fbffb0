<script setup lang="ts">
import { computed, reactive } from 'vue'

import type { ExportView, KitView } from '@/api/client'
import { isOpen, useExporting, useExports, type Wanted } from '@/api/exports'
import { complain } from '@/frame/notices'
import { useMe } from '@/frame/session'
import ProblemNote from '@/parts/ProblemNote.vue'

/** A set in other forms: ordered, made in the background, fetched when it is done. */
const props = defineProps<{ kit: KitView; setId: string }>()
const { data, error, refetch } = useExports(() => props.setId)
const { order, cancel } = useExporting(() => props.setId)
const { mayChange } = useMe()

const SIZES = [16, 24, 32, 48, 64, 128, 256, 512, 1024]
const wanted = reactive({
  forms: ['PNG'] as string[],
  sizes: [64] as number[],
  scales: [1] as number[],
  ground: '',
  motion: '',
  pattern: '{name}-{size}@{scale}x',
})
const pictures = computed(() => data.value?.forms.some((one) => one.sized && wanted.forms.includes(one.form)) ?? true)
const STATES: Record<ExportView['state'], string> = {
  waiting: 'waiting for a worker',
  running: 'being made',
  done: 'ready',
  failed: 'could not be made',
  cancelled: 'cancelled',
}

function flip<T>(list: T[], value: T): void {
  const at = list.indexOf(value)
  if (at >= 0) list.splice(at, 1)
  else list.push(value)
}

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
          <progress v-if="isOpen(one)" :value="one.done" :max="one.total" :aria-label="`${one.done} of ${one.total} made`" />
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
        <label v-for="one in data.forms" :key="one.form" class="tick">
          <input type="checkbox" :checked="wanted.forms.includes(one.form)" @change="flip(wanted.forms, one.form)" />
          <span><strong>{{ one.form }}</strong> <span class="muted small">{{ one.words }}</span></span>
        </label>
      </fieldset>
      <template v-if="pictures">
        <fieldset class="row" :disabled="!mayChange">
          <legend>Pixels</legend>
          <label v-for="size in SIZES" :key="size" class="tick">
            <input type="checkbox" :checked="wanted.sizes.includes(size)" @change="flip(wanted.sizes, size)" />
            <span class="mono">{{ size }}</span>
          </label>
        </fieldset>
        <fieldset class="row" :disabled="!mayChange">
          <legend>Times</legend>
          <label v-for="scale in [1, 2, 3, 4]" :key="scale" class="tick">
            <input type="checkbox" :checked="wanted.scales.includes(scale)" @change="flip(wanted.scales, scale)" />
            <span class="mono">{{ scale }}x</span>
          </label>
        </fieldset>
        <div class="row">
          <label>
            <span>Ground</span>
            <select v-model="wanted.ground" class="field" aria-label="Ground of the pictures">
              <option value="">transparent</option>
              <option v-for="color in kit.colors" :key="color.key" :value="`${color.key}.base`">{{ color.name }}</option>
            </select>
          </label>
          <label>
            <span>Still files, as animations</span>
            <select v-model="wanted.motion" class="field" aria-label="Motion of still files">
              <option value="">stay still</option>
              <option v-for="one in data.motions" :key="one.motion" :value="one.motion" :title="one.words">{{ one.motion }}</option>
            </select>
          </label>
          <label class="pattern">
            <span>Names</span>
            <input v-model="wanted.pattern" class="field mono" aria-label="Pattern of the names" maxlength="80" spellcheck="false" />
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
.row label {
  display: grid;
  gap: 2px;
}
.tick,
.row .tick {
  display: flex;
  gap: 6px;
  align-items: flex-start;
}
.tick input {
  flex: none;
  margin: 3px 0 0;
}
.row .tick {
  align-items: center;
}
.row .tick input {
  margin: 0;
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
progress {
  width: 90px;
}
</style>
