<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRoute } from 'vue-router'

import { useKit, useKitChanges } from '@/api/queries'
import { useDraft } from '@/frame/history'
import { complain } from '@/frame/notices'
import EmptyState from '@/parts/EmptyState.vue'
import ColorPanel from './ColorPanel.vue'
import RampTable from './RampTable.vue'

const route = useRoute()
const kitId = computed(() => route.params.kitId as string)
const { data: kit } = useKit(kitId)
const { add, undo, redo, color: changeColor, remove } = useKitChanges(kitId)

const chosenKey = ref<string>()
const chosen = computed(() => kit.value?.colors.find((color) => color.key === chosenKey.value) ?? kit.value?.colors[0])

/** A neighbor of the chosen color becomes a color of its own, named after it until someone gives it a name. */
function addNear(hex: string): void {
  const beside = chosen.value
  if (!beside) return
  const name = `${beside.name} ${hex.slice(1)}`
  add
    .mutateAsync([{ name, role: beside.role === 'neutral' ? 'neutral' : 'accent', code: hex }])
    .then((kit) => (chosenKey.value = kit.colors.find((color) => color.name === name)?.key), complain)
}

const undoIt = () => void undo.mutateAsync(undefined).catch(complain)
const redoIt = () => void redo.mutateAsync(undefined).catch(complain)
useDraft(() =>
  kit.value
    ? { undo: kit.value.history.undo, redo: kit.value.history.redo, savedAt: kit.value.history.saved_at, undoIt, redoIt }
    : null,
)
</script>

<template>
  <div v-if="kit" class="compose">
    <section class="ramps" aria-labelledby="ramps-title">
      <header>
        <h1 id="ramps-title">Ramps</h1>
        <p class="muted">same column, same contrast: steps 4 apart reach 3:1, 6 apart 4.5:1, 7 apart 7:1</p>
        <span class="gap" />
        <v-btn :disabled="!kit.history.undo" :title="kit.history.undo ?? ''" @click="undoIt">Undo</v-btn>
        <v-btn :disabled="!kit.history.redo" :title="kit.history.redo ?? ''" @click="redoIt">Redo</v-btn>
        <v-btn class="strong" :to="{ name: 'gather', params: { kitId } }">Add colors</v-btn>
      </header>
      <RampTable v-if="kit.colors.length" :kit="kit" :chosen="chosen?.key" @choose="chosenKey = $event" />
      <section v-if="kit.remarks.length" class="remarks" aria-labelledby="remarks-title">
        <h2 id="remarks-title">Worth a second look</h2>
        <ul class="scrolls">
          <li v-for="remark in kit.remarks" :key="remark.text">
            {{ remark.text }}
            <button v-for="key in remark.colors" :key="key" type="button" @click="chosenKey = key">
              {{ kit.colors.find((color) => color.key === key)?.name }}
            </button>
          </li>
        </ul>
      </section>
      <EmptyState v-if="!kit.colors.length" title="No colors yet">
        A kit begins with the codes you have: from a list, a style sheet, a message.
        <template #actions>
          <v-btn class="strong" :to="{ name: 'gather', params: { kitId } }">Paste codes</v-btn>
        </template>
      </EmptyState>
    </section>
    <ColorPanel
      v-if="chosen"
      :key="chosen.key"
      :kit-id="kitId"
      :color="chosen"
      @add="addNear"
      @change="(change) => changeColor.mutateAsync({ key: chosen!.key, ...change }).catch(complain)"
      @remove="remove.mutateAsync(chosen.key).catch(complain)"
    />
  </div>
</template>

<style scoped>
.compose {
  display: flex;
  flex: 1;
  min-height: 0;
}
.ramps {
  display: flex;
  flex-direction: column;
  flex: 1;
  min-width: 0;
  min-height: 0;
}
header {
  display: flex;
  gap: 8px;
  align-items: center;
  padding: 12px 16px 8px;
}
.gap {
  flex: 1;
}
.remarks {
  flex: none;
  margin: 0 16px 12px;
  padding: 8px 12px;
  border: 1px solid var(--rule);
  border-left: 4px solid var(--ink);
  background: var(--panel);
}
.remarks ul {
  max-height: 96px;
}
.remarks button {
  margin-left: 6px;
  padding: 0;
  border: 0;
  background: none;
  text-decoration: underline;
  cursor: pointer;
}
</style>
