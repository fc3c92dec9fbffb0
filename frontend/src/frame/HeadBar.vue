<script setup lang="ts">
import type { KitView } from '@/api/client'
import { useKits } from '@/api/queries'
import OursField from './OursField.vue'
import SurroundSwitch from './SurroundSwitch.vue'

defineProps<{ kit: KitView | undefined }>()
const { data: kits } = useKits()
</script>

<template>
  <header class="head">
    <router-link to="/" class="brand" aria-label="Pavese, start">
      <svg width="30" height="20" viewBox="0 0 30 20" aria-hidden="true" fill="currentColor">
        <path d="M0 1h30v2.500H0zM2 4h7v11l-3.500-3.500L2 15z" />
        <path d="M11.500 4h7L15 15z" opacity=".62" />
        <path d="M21 4h7v8h-7z" opacity=".4" />
      </svg>
      <strong>Pavese</strong>
    </router-link>
    <span aria-hidden="true">/</span>
    <v-menu attach>
      <template #activator="{ props }">
        <v-btn v-bind="props" class="plain kit" :aria-label="`Kit: ${kit?.name ?? 'none'}. Choose another`">
          {{ kit?.name ?? 'New kit' }} <span class="muted caret" aria-hidden="true">change</span>
        </v-btn>
      </template>
      <v-list aria-label="Kits" role="group">
        <v-list-item
          v-for="entry in kits"
          :key="entry.id"
          tabindex="0"
          :to="`/kits/${entry.id}/compose`"
          :title="entry.name"
        >
          <template #append>
            <span class="chips" aria-hidden="true">
              <i v-for="(hex, at) in entry.colors.slice(0, 8)" :key="at" :style="{ background: hex }" />
            </span>
          </template>
        </v-list-item>
        <v-list-item to="/new" tabindex="0" title="Start a new kit…" />
      </v-list>
    </v-menu>
    <span v-if="kit" class="muted">draft, not published yet</span>
    <span class="gap" />
    <OursField v-if="kit" :key="kit.id" :kit="kit" />
    <SurroundSwitch />
  </header>
</template>

<style scoped>
.head {
  display: flex;
  align-items: center;
  gap: 10px;
  height: 38px;
  padding: 0 16px;
  border-bottom: 1px solid var(--rule);
  background: var(--panel);
}
.brand {
  display: flex;
  gap: 10px;
  align-items: center;
  color: inherit;
  text-decoration: none;
  font-size: 16px;
}
.kit {
  padding: 0 6px;
  font-size: 14px;
}
.caret {
  margin-left: 6px;
  font-size: 12px;
  font-weight: 400;
  text-decoration: underline;
}
.gap {
  flex: 1;
}
.chips {
  display: inline-flex;
  margin-left: 18px;
}
.chips i {
  width: 12px;
  height: 14px;
}
</style>
