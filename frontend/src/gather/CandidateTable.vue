<script setup lang="ts">
import { computed, ref, useTemplateRef } from 'vue'

import { tooLong } from '@/parts/lengths'
import PennantShape from '@/parts/PennantShape.vue'
import { plain } from '@/parts/picking'
import PickOne from '@/parts/PickOne.vue'
import { ROLE_NAMES } from '@/parts/roles'
import { useStepwise } from '@/parts/stepwise'
import SwatchBox from '@/parts/SwatchBox.vue'
import TickBox from '@/parts/TickBox.vue'
import VariationRows from '@/parts/VariationRows.vue'
import type { Pick } from './picks'

const picks = defineModel<Pick[]>({ required: true })
const chosen = defineModel<number | undefined>('chosen')
const all = computed({
  get: () => picks.value.every((pick) => pick.ticked),
  set: (ticked: boolean) => picks.value.forEach((pick) => (pick.ticked = ticked)),
})
/** The color whose neighbors are open. */
const mixing = ref<string>()
const ROLES = plain(ROLE_NAMES)
const table = useTemplateRef('table')
const { shown } = useStepwise(table, () => picks.value, 40)
const numbered = computed(() => picks.value.some((pick) => pick.pin))
</script>

<template>
  <div ref="table" class="scrolls">
    <table class="listing">
      <thead>
        <tr>
          <th><TickBox v-model="all" aria-label="All colors" /></th>
          <th>color</th>
          <th>name, and where</th>
          <th>role</th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="pick in shown"
          :key="pick.hex"
          :class="{ off: !pick.ticked, chosen: numbered && chosen && pick.pin === chosen }"
          @click="pick.pin && (chosen = pick.pin)"
        >
          <td><TickBox v-model="pick.ticked" :aria-label="`Take ${pick.name}, ${pick.hex}`" /></td>
          <td class="color">
            <PennantShape :role="pick.role" :hex="pick.mixed ?? pick.hex" :width="34" />
            <span class="mono"><b v-if="pick.pin" class="pin">{{ pick.pin }}</b>{{ pick.mixed ?? pick.hex }}</span>
            <button type="button" class="link small" :aria-expanded="mixing === pick.hex" :aria-label="`Mix ${pick.name}, ${pick.hex}`" @click.stop="mixing = mixing === pick.hex ? undefined : pick.hex">
              {{ mixing === pick.hex ? 'done' : 'mix…' }}
            </button>
          </td>
          <td class="words">
            <v-text-field v-model="pick.name" class="field" :error-messages="tooLong(pick.name)" :aria-label="`Name of ${pick.hex}`" />
            <span v-if="pick.known_as" class="known">
              {{ pick.difference === 'same' ? 'in the kit already:' : `near (difference ${pick.difference}):` }}
              {{ pick.known_as }}
            </span>
            <span v-if="pick.opaque" class="known">{{ pick.opaque }} opaque where it stood; a kit holds solid colors</span>
            <span v-if="!pick.certain" class="known">may be a number or a word, not a color</span>
            <span v-if="pick.mixed" class="known">
              mixed from <SwatchBox :css="pick.hex" :size="12" /> <span class="mono">{{ pick.hex }}</span>
              <button type="button" class="link" :aria-label="`Take ${pick.name} as it was found`" @click.stop="pick.mixed = undefined">as it was found</button>
            </span>
            <VariationRows v-if="mixing === pick.hex" v-model="pick.mixed" :hex="pick.hex" class="mix" @click.stop />
            <span v-hint="`${pick.where} ${pick.context}`" class="place muted">
              {{ pick.where }} <span :class="{ mono: !pick.pin }">{{ pick.context }}</span>
            </span>
          </td>
          <td>
            <PickOne v-model="pick.role" class="role" :label="`Role of ${pick.name}`" :options="ROLES" />
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.scrolls {
  flex: 1;
  padding: 0 14px;
}
/* Never the color itself: it is judged here. */
.off .field {
  color: var(--muted);
}
.chosen td {
  background: var(--field);
}
.color {
  white-space: nowrap;
}
.color svg,
.color .link {
  display: block;
}
.pin {
  margin-right: 5px;
  padding: 0 4px;
  border: 1px solid var(--ink);
}
.field {
  --v-input-control-height: 26px;
}
.words {
  width: 100%;
  max-width: 0;
}
.role {
  width: 104px;
}
@media (width < 1200px) {
  .color .mono {
    font-size: 11px;
  }
  .role {
    width: 92px;
  }
}
.known {
  display: block;
  font-size: 12px;
  font-weight: 600;
}
.mix {
  padding: 4px 0;
}
.place {
  display: block;
  overflow: hidden;
  font-size: 12px;
  text-overflow: ellipsis;
  white-space: nowrap;
}
td {
  padding-right: 8px !important;
}
</style>
