<script setup lang="ts">
import type { SourceView } from '@/api/client'
import { copy } from '@/frame/notices'

defineProps<{ page: NonNullable<SourceView['page']> }>()
</script>

<template>
  <section class="scrolls" aria-label="What the page uses">
    <h2>{{ page.title || 'Page without a title' }}</h2>
    <p v-if="page.address" class="muted mono address">{{ page.address }}</p>
    <table class="listing">
      <thead>
        <tr>
          <th>use</th>
          <th>color</th>
          <th>places</th>
          <th>area</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="used in page.uses" :key="`${used.use} ${used.hex}`">
          <th>{{ used.use }}<small v-if="used.example" v-hint="used.example" class="muted">{{ used.example }}</small></th>
          <td>
            <button type="button" class="mono" :style="{ background: used.hex, color: used.ink }" :aria-label="`Copy ${used.hex}`" @click="copy(used.hex)">{{ used.hex }}</button>
          </td>
          <td class="mono">{{ used.places }}</td>
          <td class="mono">{{ used.share ? `${used.share} %` : '' }}</td>
        </tr>
      </tbody>
    </table>
    <h2>Fonts named</h2>
    <ul>
      <li v-for="font in page.fonts" :key="font.name">{{ font.name }} <span class="muted">in {{ font.places }} {{ font.places === 1 ? 'place' : 'places' }}</span></li>
    </ul>
    <p v-for="note in page.notes" :key="note" class="muted note">{{ note }}</p>
  </section>
</template>

<style scoped>
.scrolls {
  flex: 1;
  padding: 14px;
}
.address {
  overflow-wrap: anywhere;
}
h2 + ul,
.listing {
  margin-bottom: 12px;
}
small {
  display: block;
  max-width: 130px;
  overflow: hidden;
  font-weight: 400;
  text-overflow: ellipsis;
  white-space: nowrap;
}
button {
  width: 84px;
  height: 26px;
  border: 1px solid var(--rule);
  cursor: copy;
}
.note {
  margin-top: 6px;
  font-size: 12px;
}
</style>
