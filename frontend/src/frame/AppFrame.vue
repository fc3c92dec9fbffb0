<script setup lang="ts">
import { computed } from 'vue'
import { useRoute } from 'vue-router'

import { useKit } from '@/api/queries'
import ProblemNote from '@/parts/ProblemNote.vue'
import ConflictDialog from './ConflictDialog.vue'
import HeadBar from './HeadBar.vue'
import { useHistoryKeys } from './history'
import KitLine from './KitLine.vue'
import StageRow from './StageRow.vue'
import StatusBar from './StatusBar.vue'
import { useSurround } from './surround'

const route = useRoute()
const kitId = computed(() => (route.params.kitId as string | undefined) || undefined)
const { data: kit, error, refetch } = useKit(kitId)

useSurround()
useHistoryKeys()
</script>

<template>
  <div class="frame">
    <HeadBar :kit="kit" />
    <StageRow v-if="kitId" :kit="kit" :kit-id="kitId" />
    <KitLine v-if="kitId" :kit="kit" />
    <main class="stage">
      <ProblemNote v-if="error" :error="error" @again="refetch()" />
      <router-view v-else :key="kitId ?? 'none'" />
    </main>
    <StatusBar />
    <ConflictDialog v-if="kitId" :kit-id="kitId" />
  </div>
</template>

<style scoped>
.frame {
  display: flex;
  flex-direction: column;
  height: 100vh;
  height: 100dvh;
  min-width: 1024px;
}
.stage {
  flex: 1;
  min-height: 0;
  display: flex;
  flex-direction: column;
}
</style>
