<script setup lang="ts">
import { ref } from 'vue'

import type { SourceEntry } from '@/api/client'
import { sourcePictureUrl } from '@/api/sources'

defineProps<{ kitId: string; sources: SourceEntry[]; here: string; reading: boolean }>()
const emit = defineEmits<{ pick: []; address: [address: string] }>()
const address = ref('')

const KINDS = { picture: 'picture', board: 'board', page: 'page' } as const

function meta(source: SourceEntry): string {
  const parts: string[] = [source.kind === 'board' ? `board of ${source.pictures}` : KINDS[source.kind]]
  if (source.pins) parts.push(`${source.pins} ${source.pins === 1 ? 'pin' : 'pins'}`)
  return parts.join(', ')
}

function read(): void {
  if (address.value.trim()) emit('address', address.value)
}
</script>

<template>
  <nav class="sources" aria-label="Sources">
    <v-btn class="strong" @click="emit('pick')">Add files…</v-btn>
    <p class="muted small">Pictures, a logo, a saved page, a list of codes, a deck: drop them anywhere here.</p>
    <form @submit.prevent="read">
      <v-text-field v-model="address" class="field" aria-label="Address of a page" placeholder="or a page's address" spellcheck="false" maxlength="2000" />
      <v-btn type="submit" :disabled="reading || !address.trim()">{{ reading ? 'Reading…' : 'Read' }}</v-btn>
    </form>
    <ul class="scrolls">
      <li v-for="source in sources" :key="source.id">
        <router-link
          :to="{ name: 'gather', params: { kitId, source: source.id } }"
          :aria-current="here === source.id ? 'page' : undefined"
          :class="{ here: here === source.id }"
        >
          <span class="thumb"><img :src="sourcePictureUrl(source, 96)" alt="" loading="lazy" /></span>
          <span class="words">
            <strong v-hint="source.name">{{ source.name }}</strong>
            <small class="muted">{{ meta(source) }}</small>
            <small v-if="source.unstated" class="mark">{{ source.unstated }} without rights</small>
          </span>
        </router-link>
      </li>
      <li v-for="[name, label, hint] in [['codes', 'Codes', 'pasted or from a file'], ['shelf', 'Reference shelf', 'palettes to start from']]" :key="name">
        <router-link
          :to="{ name: 'gather', params: { kitId, source: name } }"
          :aria-current="here === name ? 'page' : undefined"
          :class="{ here: here === name }"
        >
          <span class="words"
            ><strong>{{ label }}</strong><small class="muted">{{ hint }}</small></span
          >
        </router-link>
      </li>
    </ul>
  </nav>
</template>

<style scoped>
.sources {
  display: flex;
  flex-direction: column;
  gap: 8px;
  flex: none;
  width: 212px;
  padding: 12px 0 0 16px;
  border-right: 1px solid var(--rule);
  background: var(--panel);
  min-height: 0;
}
.sources > .v-btn {
  align-self: start;
  flex: none;
}
.sources > p {
  padding-right: 12px;
}
form {
  display: flex;
  padding-right: 12px;
}
form .field {
  flex: 1;
}
ul {
  flex: 1;
  margin-left: -16px;
  border-top: 1px solid var(--rule);
}
a {
  display: flex;
  gap: 8px;
  align-items: center;
  padding: 6px 10px 6px 13px;
  border-left: 3px solid transparent;
  border-bottom: 1px solid var(--hair);
  color: inherit;
  text-decoration: none;
}
a:hover,
.here {
  background: var(--field);
}
.here {
  border-left-color: var(--ink);
}
a:focus-visible {
  outline-offset: -3px;
}
.thumb {
  display: grid;
  place-items: center;
  flex: none;
  width: 48px;
  height: 36px;
  overflow: hidden;
  background: #fff;
  border: 1px solid var(--hair);
}
.thumb img {
  max-width: 46px;
  max-height: 34px;
}
.words {
  display: grid;
  min-width: 0;
  line-height: 1.2;
}
.words strong {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.words small {
  font-size: 11px;
}
.mark {
  font-weight: 700;
}
</style>
