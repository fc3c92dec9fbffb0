<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { useRoute } from 'vue-router'

import { client, taken } from '@/api/client'
import { useShippedFaces } from '@/api/typefaces'
import { useSurround } from '@/frame/surround'
import PennantShape from '@/parts/PennantShape.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import FormList from './FormList.vue'
import SharedSet from './SharedSet.vue'

/** One state of a kit, with sets in its colors, for whoever has the link. */
const route = useRoute()
const token = computed(() => route.params.token as string)
const { data: shared, error, refetch } = useQuery({
  queryKey: computed(() => ['shared', token.value]),
  queryFn: () => taken(client.GET('/api/shared/{token}', { params: { path: { token: token.value } } })),
})
useSurround()
useShippedFaces()

const approved = computed(() =>
  (shared.value?.pairs.decisions ?? [])
    .filter((one) => one.status === 'approved')
    .map((one) => ({
      text: shared.value!.pairs.subjects[one.text]!,
      ground: shared.value!.pairs.subjects[one.ground]!,
      ratio: shared.value!.pairs.ratios[one.ground]![one.text]!,
      use: one.use,
    })),
)
const faces = computed(() =>
  [
    { use: 'Headlines', face: shared.value?.type.headline, large: true },
    { use: 'Text', face: shared.value?.type.text, large: false },
  ].flatMap(({ face, ...rest }) => (face ? [{ face, ...rest }] : [])),
)
const path = computed(() => `/api/shared/${encodeURIComponent(token.value)}`)
</script>

<template>
  <main class="shared scrolls">
    <ProblemNote v-if="error" :error="error" @again="refetch()" />
    <article v-else-if="shared">
      <header>
        <span v-if="shared.logo" class="logo" :style="{ background: shared.logo.behind }">
          <img :src="`${path}/logo?key=${shared.logo.key}`" :alt="`The logo of ${shared.name}`" height="64" />
        </span>
        <div>
          <h1>{{ shared.name }}</h1>
          <p>
            {{ shared.number ? `Edition ${shared.number}` : 'A draft, not published' }},
            {{ new Date(shared.at).toLocaleDateString([], { dateStyle: 'long' }) }}, {{ shared.number ? 'published' : 'shared' }} by
            {{ shared.who }} <span class="mono muted">{{ shared.digest.slice(0, 12) }}</span>
          </p>
          <p v-if="shared.note">{{ shared.note }}</p>
        </div>
        <span class="gap" />
        <v-btn class="strong" :href="`${path}/everything.zip`">Download everything</v-btn>
      </header>
      <h2>Colors</h2>
      <ul class="colors">
        <li v-for="color in shared.colors" :key="color.key">
          <div class="swatch pair" :style="{ background: color.hex, color: color.ink }">{{ color.hex }}</div>
          <p><PennantShape :role="color.role" :hex="color.hex" :width="22" /> <strong>{{ color.name }}</strong></p>
          <p class="muted small">{{ color.role }}</p>
          <p v-for="(code, kind) in color.notations" :key="kind" class="mono">{{ code }}</p>
          <p v-if="color.note" class="small">{{ color.note }}</p>
        </li>
      </ul>
      <h2>Ramps</h2>
      <div v-for="color in shared.colors" :key="color.key" class="ramp">
        <span>{{ color.name }}</span>
        <span v-for="step in color.steps" :key="step.step" v-hint="step.hex" class="step" :style="{ background: step.hex, color: step.ink }">{{ step.step }}</span>
      </div>
      <template v-if="faces.length">
        <h2>Typefaces</h2>
        <div v-for="one in faces" :key="one.use" class="face">
          <p class="small">{{ one.use }}</p>
          <p>
            <strong>{{ one.face.wanted }}</strong>
            <span v-if="!one.face.same" class="muted small"> shown in {{ one.face.shown }}, {{ one.face.why }}</span>
          </p>
          <p :class="{ large: one.large }" :style="{ fontFamily: `'${one.face.shown}', var(--face, sans-serif)` }">{{ shared.name }}: 0123456789 ABCDEFG abcdefg &amp; ?!</p>
        </div>
      </template>
      <h2 v-if="approved.length">Approved pairs</h2>
      <ul v-if="approved.length" class="pairs">
        <li v-for="one in approved" :key="`${one.text.token} ${one.ground.token}`">
          <div class="pair" :style="{ background: one.ground.hex, color: one.text.hex }">
            <p class="large">{{ shared.name }}</p>
            <p>{{ one.text.name }} on {{ one.ground.name }}.</p>
          </div>
          <p class="small"><strong>{{ one.ratio }} : 1</strong> for {{ one.use }}</p>
        </li>
      </ul>
      <template v-if="shared.see_through.length">
        <h2>See-through equals</h2>
        <div v-for="one in shared.see_through" :key="`${one.setting.of} ${one.setting.base}`">
          <p class="small">{{ one.name }} over {{ one.base_name }}</p>
          <div class="ramp through">
            <span v-for="step in one.steps" :key="step.step" class="mono" :style="{ background: step.solid }">
              <b :style="{ background: one.base }"><i :style="{ background: step.rgb }" /></b>
              <em>{{ step.step }}<br />{{ step.hex }}</em>
            </span>
          </div>
        </div>
      </template>
      <h2>Rules</h2>
      <ul>
        <li v-for="rule in shared.rules.words" :key="rule">{{ rule }}</li>
      </ul>
      <SharedSet v-for="one in shared.sets" :key="one.id" :path="path" :set="one" />
      <h2>One by one</h2>
      <FormList :forms="shared.forms" :path="`${path}/hand-over`" :query="() => ''" />
    </article>
  </main>
</template>

<style scoped>
.shared {
  height: 100vh;
  height: 100dvh;
}
article {
  display: grid;
  gap: 14px;
  max-width: 1080px;
  margin: 0 auto;
  padding: 28px 32px 60px;
}
header {
  display: flex;
  gap: 24px;
  align-items: center;
  padding-bottom: 14px;
  border-bottom: 2px solid var(--ink);
}
.logo {
  padding: 12px 16px;
}
.logo img {
  display: block;
}
.gap {
  flex: 1;
}
.face {
  padding: 6px 0 8px;
  border-top: 1px solid var(--hair);
}
h1 {
  font-size: 26px;
}
h2 {
  margin-top: 14px;
  font-size: 16px;
}
.colors {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(210px, 1fr));
  gap: 18px;
}
.swatch {
  display: grid;
  align-items: end;
  height: 96px;
  margin-bottom: 6px;
  padding: 8px 10px;
}
.ramp {
  display: grid;
  grid-template-columns: 130px repeat(11, 1fr);
  align-items: center;
}
.ramp.through {
  grid-template-columns: repeat(11, 1fr);
  margin-top: 4px;
}
.through span {
  padding-top: 18px;
  font-size: 10px;
  text-align: center;
}
.through b,
.through i {
  display: block;
  height: 24px;
}
.through em {
  display: block;
  padding-top: 3px;
  background: var(--ground);
  font-style: normal;
}
.step {
  padding: 10px 0;
  font-size: 11px;
  text-align: center;
}
.pairs {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(260px, 1fr));
  gap: 14px;
}
.pairs .pair {
  padding: 14px 16px;
}
.large {
  font-size: 22px;
  font-weight: 700;
}
</style>
