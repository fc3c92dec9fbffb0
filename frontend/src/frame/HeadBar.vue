<script setup lang="ts">
import { ref } from 'vue'
import { useRoute } from 'vue-router'

import type { KitView } from '@/api/client'
import { useComposing } from '@/api/composing'
import { useKits } from '@/api/kits'
import OursField from './OursField.vue'
import PasswordDialog from './PasswordDialog.vue'
import { LONGEST_NAME } from '@/parts/lengths'
import SavedField from '@/parts/SavedField.vue'
import { complain } from './notices'
import { signOut, useMe } from './session'
import SurroundSwitch from './SurroundSwitch.vue'

const props = defineProps<{ kit: KitView | undefined }>()
const { data: kits } = useKits()
const { me, mayChange } = useMe()
const changing = ref(false)
const route = useRoute()
const { rename } = useComposing(() => props.kit?.id ?? '')
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
      <template #activator="{ props: open }">
        <v-btn v-bind="open" class="plain kit" :aria-label="`Kit: ${kit?.name ?? 'none'}. Choose another`">
          <span class="name">{{ kit?.name ?? (route.name === 'new' ? 'New kit' : 'Kits') }}</span> <span class="muted caret" aria-hidden="true">change</span>
        </v-btn>
      </template>
      <v-list aria-label="Kits" role="group">
        <v-list-item
          v-for="entry in kits?.filter((one) => !one.archived)"
          :key="entry.id"
          tabindex="0"
          :to="`/kits/${entry.id}/compose`"
          :title="entry.name"
        >
          <template #append>
            <span class="chips" aria-hidden="true">
              <i v-for="(color, at) in entry.colors.slice(0, 8)" :key="at" :style="{ background: color.hex }" />
            </span>
          </template>
        </v-list-item>
        <label v-if="kit" class="rename" @click.stop>
          <span class="muted small">rename this one</span>
          <SavedField
            :value="kit.name"
            label="Name of this kit"
            :longest="LONGEST_NAME"
            required
            @save="rename.mutateAsync($event).catch(complain)"
            @keydown.stop
          />
        </label>
        <v-list-item to="/new" tabindex="0" title="Start a new kit…" />
        <v-list-item to="/kits" tabindex="0" title="All kits…" />
      </v-list>
    </v-menu>
    <router-link v-if="kit" class="muted edition" :to="{ name: 'prove', params: { kitId: kit.id, view: 'editions' } }">
      {{ !kit.edition ? 'draft, not published yet' : kit.drafted ? `draft after edition ${kit.edition}` : `edition ${kit.edition}` }}
    </router-link>
    <span class="gap" />
    <OursField v-if="kit" :key="kit.id" :kit="kit" />
    <SurroundSwitch />
    <v-menu v-if="me" attach location="bottom end">
      <template #activator="{ props: open }">
        <v-btn v-bind="open" class="plain" :aria-label="`Signed in as ${me.name}, ${me.role}`">
          {{ me.name }} <span v-if="!mayChange" class="muted caret">{{ me.role }}</span>
        </v-btn>
      </template>
      <v-list aria-label="You" role="group">
        <v-list-item :subtitle="me.email" :title="me.role" />
        <v-list-item v-if="mayChange" to="/people" tabindex="0" title="People…" />
        <v-list-item tabindex="0" title="Change your password…" @click="changing = true" />
        <v-list-item tabindex="0" title="Sign out" @click="signOut().catch(complain)" />
      </v-list>
    </v-menu>
    <PasswordDialog v-model="changing" />
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
  /* A long name gives way to what stands beside it. */
  flex-shrink: 1;
  min-width: 110px;
  padding: 0 6px;
  font-size: 14px;
}
.kit :deep(.v-btn__content) {
  min-width: 0;
}
.name {
  overflow: hidden;
  text-overflow: ellipsis;
}
.caret {
  margin-left: 6px;
  font-size: 12px;
  font-weight: 400;
  text-decoration: underline;
}
.rename {
  display: grid;
  gap: 2px;
  padding: 6px 16px;
}
.edition {
  flex-shrink: 1;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
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
