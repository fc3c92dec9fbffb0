<script setup lang="ts">
import { computed } from 'vue'

import type { Only, SetView } from '@/api/client'

/** How the texts of a set read, in a line, with the way to those that only eyes can judge. */
const props = defineProps<{ set: SetView }>()
defineEmits<{ only: [which: Only] }>()
const reading = computed(() => props.set.reading!)
/** Of mails and decks a proof can be made, in which they are seen. */
const led = computed(() => reading.value.unknown > 0 && ['email', 'slides'].includes(props.set.channel))

const told = computed(() => {
  const { texts, read, lost, unknown } = reading.value
  const weak = texts - unknown - read - lost
  return [
    ...(weak ? [`${weak} did not before either`] : []),
    ...(unknown ? [`${unknown} on pictures or mixtures that are not followed`] : []),
  ].join('; ')
})
</script>

<template>
  <p class="small" :class="{ short: reading.lost }" role="status">
    {{ reading.read }} of {{ reading.texts }} kinds of text read{{ reading.lost || told ? ';' : '.' }}
    <!-- A button stands in one piece: what follows it would begin a line. -->
    <button
      v-if="reading.lost"
      v-hint="'The files they stand in, by themselves'"
      type="button"
      class="link"
      @click="$emit('only', 'worse')"
    >
      {{ reading.lost }} read less well than before{{ told ? ';' : '.' }}
    </button>
    <template v-if="told">{{ ' ' + told }}{{ led ? ':' : '.' }}</template>
    <router-link
      v-if="led"
      v-hint="'Before and after side by side, as a PDF: there they can be looked at'"
      :to="{ name: 'hand-over', params: { kitId: set.kit_id, setId: set.id }, query: { form: 'proof' } }"
    >
      look at them in the proof
    </router-link>
  </p>
</template>

<style scoped>
.short {
  font-weight: 600;
}
</style>
