<script setup lang="ts">
import type { KitView } from '@/api/client'
import { useComposing } from '@/api/composing'
import { complain } from '@/frame/notices'
import RampTable from './RampTable.vue'

const props = defineProps<{ kit: KitView; chosen: string | undefined }>()
const emit = defineEmits<{ choose: [key: string]; own: [color: string, step: number] }>()
const { order } = useComposing(() => props.kit.id)
</script>

<template>
  <section class="ramps" aria-labelledby="ramps-title">
    <header>
      <h1 id="ramps-title">Ramps</h1>
      <p class="muted">same column, same contrast: steps 4 apart reach 3:1, 6 apart 4.5:1, 7 apart 7:1</p>
    </header>
    <RampTable
      :kit="kit"
      :chosen="chosen"
      @choose="emit('choose', $event)"
      @own="(color, step) => emit('own', color, step)"
      @order="order.mutateAsync($event).catch(complain)"
    />
    <section v-if="kit.remarks.length" class="remarks" aria-labelledby="remarks-title">
      <h2 id="remarks-title">Worth a second look</h2>
      <ul class="scrolls">
        <li v-for="remark in kit.remarks" :key="remark.text">
          {{ remark.text }}
          <button v-for="key in remark.colors" :key="key" type="button" class="link" @click="emit('choose', key)">
            {{ kit.colors.find((color) => color.key === key)?.name }}
          </button>
        </li>
      </ul>
    </section>
  </section>
</template>

<style scoped>
.ramps {
  display: flex;
  flex-direction: column;
  flex: 1;
  min-height: 0;
}
header {
  display: flex;
  gap: 12px;
  align-items: baseline;
  padding: 10px 16px 4px;
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
.remarks .link {
  margin-left: 6px;
}
</style>
