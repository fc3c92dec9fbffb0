<script setup lang="ts">
import { ref } from 'vue'

import type { KitView, ProposalView } from '@/api/client'
import PennantShape from '@/parts/PennantShape.vue'
import VariationRows from '@/parts/VariationRows.vue'

/** One proposal: the whole kit in a small layout at 60, 30 and 10, and why it is good, in figures. */
defineProps<{ proposal: ProposalView; samples: KitView['samples'] }>()
const emit = defineEmits<{ take: []; one: [at: number]; mixed: [at: number, hex: string]; like: [] }>()

const mixing = ref<number>()
const mixed = ref<string>()
function open(at: number): void {
  mixing.value = mixing.value === at ? undefined : at
  mixed.value = undefined
}
</script>

<template>
  <li class="card" :aria-label="`Proposal ${proposal.seed}`">
    <div class="layout" :style="{ background: proposal.slots[0]!.hex, color: proposal.slots[0]!.ink }" aria-hidden="true">
      <div class="band" :style="{ background: proposal.slots[1]!.hex, color: proposal.slots[1]!.ink }">{{ samples.headline }}</div>
      <span class="words">{{ samples.sentence }}</span>
      <span class="press" :style="{ background: proposal.slots[2]!.hex, color: proposal.slots[2]!.ink }">{{ samples.action }}</span>
    </div>
    <div class="line" aria-hidden="true">
      <PennantShape v-for="(color, at) in proposal.line" :key="at" :role="color.role" :hex="color.hex" :width="24" />
    </div>
    <ul class="new">
      <li v-for="(color, at) in proposal.new" :key="at">
        <i :style="{ background: color.hex }" />
        <span v-hint="color.name" class="name">{{ color.name }}<small class="muted">{{ color.role }}</small></span>
        <button type="button" class="link small" :aria-expanded="mixing === at" :aria-label="`Mix ${color.name}, ${color.hex}`" @click="open(at)">{{ mixing === at ? 'done' : 'mix…' }}</button>
        <button type="button" class="link small" :aria-label="`Take only ${color.name}, ${color.hex}`" @click="emit('one', at)">only this</button>
        <div v-if="mixing === at" class="mix">
          <VariationRows v-model="mixed" :hex="color.hex" />
          <p v-if="mixed" class="small">
            <i :style="{ background: mixed }" /> <span class="mono">{{ mixed }}</span>
            <button type="button" class="link" @click="emit('mixed', at, mixed)">take this one</button>
          </p>
        </div>
      </li>
    </ul>
    <dl class="small">
      <dt>readable pairs gained</dt>
      <dd class="mono">{{ proposal.readable_gained }}</dd>
      <template v-if="proposal.action_distance !== null">
        <dt>action color from all others</dt>
        <dd class="mono">{{ proposal.action_distance }}</dd>
      </template>
      <dt>spread of lightness</dt>
      <dd class="mono">{{ proposal.lightness_spread }}</dd>
      <dt>{{ proposal.family ? `fit with ${proposal.family}` : 'family fit' }}</dt>
      <dd class="mono">{{ proposal.family_fit }} %</dd>
      <dt>{{ proposal.relation }}, off by</dt>
      <dd class="mono">{{ proposal.miss }}°</dd>
    </dl>
    <footer>
      <v-btn class="strong" @click="emit('take')">Take whole</v-btn>
      <v-btn @click="emit('like')">More like this</v-btn>
      <span v-hint="'Seed'" class="mono muted">{{ proposal.seed }}</span>
    </footer>
  </li>
</template>

<style scoped>
.card {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 6px;
  align-content: start;
  padding: 8px;
  border: 1px solid var(--rule);
  background: var(--panel);
}
.layout {
  position: relative;
  height: 92px;
  overflow: hidden;
}
.band {
  height: 30%;
  padding: 3px 8px;
  overflow: hidden;
  font-weight: 700;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.words {
  position: absolute;
  top: 40%;
  right: 40%;
  left: 8px;
  max-height: 48px;
  overflow: hidden;
  font-size: 12px;
  line-height: 16px;
}
.press {
  position: absolute;
  right: 8px;
  bottom: 8px;
  display: grid;
  place-items: center;
  width: 34%;
  height: 32%;
  overflow: hidden;
  font-size: 11px;
  line-height: 13px;
  text-align: center;
  font-weight: 700;
}
.line {
  display: flex;
  flex-wrap: wrap;
  gap: 2px;
  border-top: 2px solid var(--ink);
}
.new li {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  align-items: center;
}
.mix {
  flex: 1 0 100%;
}
.mix p {
  display: flex;
  gap: 6px;
  align-items: center;
  padding-top: 5px;
}
.new i {
  flex: none;
  width: 18px;
  height: 14px;
  border: 1px solid var(--rule);
}
.name {
  flex: 1;
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.name small {
  margin-left: 6px;
}
.new .link {
  white-space: nowrap;
}
dl {
  display: grid;
  grid-template-columns: 1fr auto;
}
footer {
  display: flex;
  gap: 4px;
  align-items: center;
}
footer .v-btn {
  height: 28px;
  padding: 0 8px;
  font-size: 12px;
}
footer .mono {
  margin-left: auto;
}
</style>
