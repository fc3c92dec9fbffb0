<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'

import type { Candidate, KitView } from '@/api/client'
import { useKitChanges, useStartKit } from '@/api/kits'
import { complain, say } from '@/frame/notices'
import { LONGEST_NAME, tooLong } from '@/parts/lengths'
import CandidateTable from './CandidateTable.vue'
import { usePicks } from './picks'

/** Colors found in a source, to be taken in all in one step: into the kit, or, without one, into a new one. */
const props = defineProps<{
  kit: KitView | undefined
  found: Candidate[]
  note?: string | null | undefined
  /** How the heading calls what happened to them. */
  verb: string
  reading?: boolean
}>()
const emit = defineEmits<{ added: [] }>()
const chosen = defineModel<number | undefined>('chosen')

const router = useRouter()
const picks = usePicks(() => props.found)
const ticked = computed(() => picks.value.filter((pick) => pick.ticked))
const nameless = computed(() => ticked.value.some((pick) => !pick.name.trim() || tooLong(pick.name)))
const name = ref('')
const nameProblem = ref('')

const { add } = useKitChanges(() => props.kit?.id)
const start = useStartKit()
const busy = computed(() => add.isPending.value || start.isPending.value)
const count = computed(() => `${ticked.value.length} ${ticked.value.length === 1 ? 'color' : 'colors'}`)

function decided() {
  return ticked.value.map((pick) => ({ name: pick.name, role: pick.role, code: pick.mixed ?? pick.hex }))
}

async function addAll(): Promise<void> {
  const said = count.value
  try {
    const changed = await add.mutateAsync(decided())
    emit('added')
    say(`${said} added to ${changed.name}`)
    await router.push({ name: 'compose', params: { kitId: changed.id } })
  } catch (error) {
    complain(error)
  }
}

async function startKit(): Promise<void> {
  nameProblem.value = name.value.trim() ? tooLong(name.value) : 'Give the kit a name first.'
  if (nameProblem.value) return
  try {
    const made = await start.mutateAsync({ name: name.value, colors: decided() })
    emit('added')
    say(made.colors.length ? `${made.name} started with ${made.colors.length} colors` : `${made.name} started`)
    await router.push({ name: made.colors.length ? 'compose' : 'gather', params: { kitId: made.id } })
  } catch (error) {
    complain(error)
  }
}
</script>

<template>
  <section class="found" aria-labelledby="found-title">
    <header>
      <h2 id="found-title">
        {{ picks.length }} {{ picks.length === 1 ? 'color' : 'colors' }} {{ verb }}<span v-if="picks.length" class="muted">, {{ ticked.length }} ticked</span>
      </h2>
      <span v-if="reading" class="muted" role="status">reading…</span>
      <span v-if="note" class="muted note">{{ note }}</span>
    </header>
    <CandidateTable v-if="picks.length" v-model="picks" v-model:chosen="chosen" />
    <div v-else class="nothing muted"><slot name="nothing" /></div>
    <slot name="untaken" />
    <footer>
      <template v-if="kit">
        <v-btn class="strong" :disabled="!ticked.length || nameless || busy" @click="addAll">
          Add {{ count }} to {{ kit.name }}
        </v-btn>
        <span v-if="nameless" class="muted">Every ticked color needs a name of at most {{ LONGEST_NAME }} characters.</span>
      </template>
      <form v-else @submit.prevent="startKit">
        <v-text-field v-model="name" aria-label="Name of the kit" placeholder="name of the kit" :error-messages="nameProblem" autocomplete="off" />
        <v-btn type="submit" class="strong" :disabled="nameless || busy">
          {{ ticked.length ? `Start the kit with ${count}` : 'Start the kit empty' }}
        </v-btn>
      </form>
    </footer>
  </section>
</template>

<style scoped>
.found {
  display: flex;
  flex-direction: column;
  min-height: 0;
  min-width: 0;
}
header {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 12px;
  align-items: baseline;
  padding: 14px 14px 6px;
}
.note {
  font-size: 12px;
}
.nothing {
  flex: 1;
  padding: 8px 14px;
}
footer {
  display: flex;
  gap: 12px;
  align-items: center;
  padding: 10px 14px;
  border-top: 1px solid var(--rule);
  background: var(--panel);
}
footer > .v-btn {
  max-width: 100%;
}
footer :deep(.v-btn__content) {
  min-width: 0;
}
form {
  display: flex;
  gap: 12px;
  align-items: start;
  flex: 1;
}
form :deep(.v-input) {
  max-width: 320px;
}
form .v-btn {
  height: 40px;
}
</style>
