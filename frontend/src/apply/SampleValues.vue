<script setup lang="ts">
import type { SetView } from '@/api/client'
import { useSetChanges } from '@/api/queries'
import { complain } from '@/frame/notices'
import SavedField from '@/parts/SavedField.vue'

/** What is shown in the place of a template's code, in all of the set; nothing of it is handed over. */
const props = defineProps<{ set: SetView; codes: readonly string[] }>()
const changes = useSetChanges(() => props.set.id)
const LONGEST = 400

function put(code: string, value: string): void {
  changes.samples.mutateAsync({ values: { ...props.set.samples, [code]: value } }).catch(complain)
}
</script>

<template>
  <details class="samples">
    <summary class="small">Sample values for {{ codes.length }} {{ codes.length === 1 ? 'code' : 'codes' }}</summary>
    <label v-for="code in codes" :key="code" class="small">
      <span class="mono">{{ code }}</span>
      <SavedField :value="set.samples[code] ?? ''" :label="`Sample for ${code}`" :longest="LONGEST" @save="put(code, $event)" />
    </label>
  </details>
</template>

<style scoped>
label {
  display: grid;
  grid-template-columns: 160px minmax(0, 1fr);
  gap: 8px;
  align-items: center;
  padding-top: 4px;
}
.mono {
  overflow-wrap: anywhere;
}
</style>
