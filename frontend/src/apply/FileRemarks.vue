<script setup lang="ts">
import type { AssetView, FileView } from '@/api/client'

/** What there is to say of a file: whose it is, what it came with, what it is shown together with, and what it lacks. */
defineProps<{ asset: AssetView; file: FileView | undefined }>()

/** So many names are told. */
const TOLD = 8
const listed = (names: string[]) => [...names.slice(0, TOLD), ...(names.length > TOLD ? ['…'] : [])].join(', ')
const are = (those: string[], one: string, many: string) => (those.length === 1 ? one : many)
</script>

<template>
  <p v-if="asset.rights.author" class="remark">
    {{ asset.rights.origin }}: by {{ asset.rights.author }}, {{ asset.rights.rights }}
  </p>
  <p v-if="file?.beside.length" class="remark">
    With it came <span class="mono">{{ listed(file.beside) }}</span
    >, which {{ are(file.beside, 'is', 'are') }} handed over with it.
  </p>
  <p v-if="file?.together.length" class="remark">
    Shown together with <span class="mono">{{ listed(file.together) }}</span
    >, as it is sent. The colors of {{ are(file.together, 'that', 'those') }} are chosen there.
  </p>
  <p v-if="file?.lacking.length" class="remark">
    Its code puts it together with <span class="mono">{{ listed(file.lacking) }}</span
    >, which {{ are(file.lacking, 'is not here: drop it', 'are not here: drop them') }} as well to see the whole.
  </p>
  <p v-for="remark in asset.remarks" :key="remark" class="remark">{{ remark }}</p>
</template>

<style scoped>
.remark {
  padding-left: 10px;
  border-left: 2px solid var(--ink);
}
</style>
