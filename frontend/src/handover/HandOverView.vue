<script setup lang="ts">
import { computed } from 'vue'
import { useRoute } from 'vue-router'

import { useKit } from '@/api/kits'
import { usePackage } from '@/api/sets'
import SetBar from '@/apply/SetBar.vue'
import { copy } from '@/frame/notices'
import EmptyState from '@/parts/EmptyState.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import ExportPanel from './ExportPanel.vue'
import HandedFiles from '@/parts/HandedFiles.vue'
import HandOverTabs from './HandOverTabs.vue'

const route = useRoute()
const kitId = computed(() => route.params.kitId as string)
const { data: kit } = useKit(kitId)
const setId = computed(() => (route.params.setId as string) || kit.value?.sets[0]?.id)
const { data: pack, error, refetch } = usePackage(setId)

const AGAIN = 'pavese recolor --kit kit.tokens.json --plan plan.json originals/* -o recolored/'
</script>

<template>
  <div class="over">
    <HandOverTabs :kit-id="kitId" view="files" />
    <SetBar v-if="kit?.sets.length" :kit="kit" :set-id="setId" view="hand-over" />
    <ProblemNote v-if="error" :error="error" @again="refetch()" />
    <div class="columns">
      <section class="scrolls" aria-labelledby="package-title">
        <h1 id="package-title">{{ pack?.files ? pack.name : 'Package' }}</h1>
        <template v-if="pack && pack.files">
          <header>
            <p class="muted">{{ pack.entries.length + pack.files }} files; the same set, kit and plan always give the same bytes</p>
            <v-btn class="strong" :href="`/api/sets/${setId}/package.zip`">Download the package</v-btn>
          </header>
          <ul class="entries">
            <li v-for="entry in pack.entries" :key="entry.path">
              <span class="mono">{{ entry.path }}</span> <span class="muted">{{ entry.what }}</span>
            </li>
          </ul>
          <HandedFiles v-if="setId" :key="setId" :set-id="setId" :total="pack.files" />
        </template>
        <EmptyState v-else-if="kit && (!setId || pack)" title="No files to hand over">
          A package holds a set's recolored files with the kit and the plan that made them.
          <template #actions>
            <v-btn class="strong" :to="{ name: 'apply', params: { kitId, setId } }">Bring files</v-btn>
          </template>
        </EmptyState>
      </section>
      <aside v-if="kit?.colors.length" class="scrolls" aria-label="Other ways">
        <ExportPanel v-if="setId && pack?.files" :key="setId" :kit="kit" :set-id="setId" />
        <h2 id="again-title">The same result again</h2>
        <p class="muted">From a shell, with the kit and the plan of the package and the original files:</p>
        <button v-hint="'Copy'" type="button" class="again mono" @click="copy(AGAIN)">{{ AGAIN }}</button>
      </aside>
    </div>
  </div>
</template>

<style scoped>
.over {
  display: flex;
  flex-direction: column;
  flex: 1;
  min-height: 0;
}
.columns {
  display: flex;
  flex: 1;
  min-height: 0;
}
section {
  flex: 1;
  padding: 14px 16px;
}
header {
  display: grid;
  gap: 8px;
  justify-items: start;
  margin-bottom: 14px;
}
.entries {
  margin-bottom: 14px;
}
.entries li {
  padding: 3px 0;
  border-top: 1px solid var(--hair);
}
aside {
  display: grid;
  gap: 8px;
  align-content: start;
  justify-items: start;
  width: 420px;
  padding: 16px;
  border-left: 1px solid var(--rule);
  background: var(--panel);
}
.again {
  padding: 8px;
  border: 1px solid var(--rule);
  background: var(--field);
  text-align: left;
  overflow-wrap: anywhere;
  cursor: copy;
}
h2 {
  margin-top: 6px;
}
</style>
