<script setup lang="ts">
import { ref } from 'vue'

import type { PictureView, SourceView } from '@/api/client'
import { useAccept } from '@/api/formats'
import { useProving } from '@/api/proving'
import type { useSourceChanges } from '@/api/sources'
import { dropOnSource } from '@/api/sources'
import { complain, say } from '@/frame/notices'
import { useMe } from '@/frame/session'
import BoxNote from '@/parts/BoxNote.vue'
import SlideField from '@/parts/SlideField.vue'
import { dropFiles, dropped, type Drop } from '@/parts/upload'
import SavedField from '@/parts/SavedField.vue'
import DropNote from '@/parts/DropNote.vue'

const accept = useAccept('pictures')

/** The pictures of a source: their order and size on a board, where they are from, and what may be done with them. */
const props = defineProps<{ kitId: string; source: SourceView; changes: ReturnType<typeof useSourceChanges> }>()
const { mayChange } = useMe()
const { pictureAsLogo } = useProving(() => props.kitId)
async function useAsLogo(picture: PictureView): Promise<void> {
  try {
    await pictureAsLogo.mutateAsync({ source: props.source.id, picture: picture.id })
    say(`${picture.name} is the logo now; see it on every ground under Compose, logo`)
  } catch (error) {
    complain(error)
  }
}
const picker = ref<HTMLInputElement>()
const drop = ref<Drop>()

function shift(at: number, by: number): void {
  const ids = props.source.pictures.map((picture) => picture.id)
  const [moved] = ids.splice(at, 1)
  ids.splice(at + by, 0, moved!)
  props.changes.order.mutateAsync(ids).catch(complain)
}

function tell(picture: PictureView, field: 'origin' | 'author' | 'rights', text: string): void {
  props.changes.picture.mutateAsync({ picture: picture.id, [field]: text }).catch(complain)
}

async function add(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const files = [...(input.files ?? [])]
  input.value = ''
  if (!files.length) return
  try {
    const done = await dropFiles(files, (body, signal) => dropOnSource(props.source.id, body, signal), (shown) => (drop.value = shown))
    if (!done.refused.length) drop.value = undefined
    say(dropped(done))
  } catch (error) {
    drop.value = undefined
    complain(error)
  }
}
</script>

<template>
  <section class="scrolls" aria-label="Pictures">
    <DropNote v-if="drop" :drop="drop" @close="drop = undefined" />
    <ul>
      <li v-for="(picture, at) in source.pictures" :key="picture.id" :aria-label="picture.name">
        <div class="head">
          <strong v-hint="picture.name">{{ picture.name }}</strong>
          <template v-if="source.pictures.length > 1">
            <v-btn :disabled="at === 0" :aria-label="source.by_hand ? `Lay ${picture.name} lower` : `Move ${picture.name} forward`" @click="shift(at, -1)">↑</v-btn>
            <v-btn
              :disabled="at === source.pictures.length - 1"
              :aria-label="source.by_hand ? `Lay ${picture.name} higher` : `Move ${picture.name} back`"
              @click="shift(at, 1)">↓</v-btn>
            <v-btn :aria-label="`Remove ${picture.name}`" @click="changes.removePicture.mutateAsync(picture.id).catch(complain)">Remove</v-btn>
          </template>
        </div>
        <div v-if="source.kind === 'board' && !source.by_hand" class="one">
          <span class="muted">size</span>
          <SlideField
            :label="`Size of ${picture.name}`"
            :model-value="picture.scale"
            :min="40"
            :max="300"
            :step="10"
            :factor="100"
            unit="%"
            @update:model-value="(scale) => changes.picture.mutateAsync({ picture: picture.id, scale }).catch(complain)"
          />
        </div>
        <label v-for="field in ['origin', 'author', 'rights'] as const" :key="field">
          <span class="muted">{{ field }}</span>
          <SavedField :value="picture[field]" :label="`${field} of ${picture.name}`" :longest="300" @save="tell(picture, field, $event)" />
        </label>
        <p v-if="!picture.rights && source.kind !== 'page'" class="mark">No rights stated: publishing will mention it.</p>
        <BoxNote v-if="picture.box" :box="picture.box" :name="picture.name" @free="(inside) => changes.free.mutateAsync({ picture: picture.id, inside }).catch(complain)" />
        <p v-if="source.kind !== 'page' && mayChange" class="small">
          <button type="button" class="link" @click="useAsLogo(picture)">use it as the logo</button>
        </p>
        <p v-for="note in picture.notes" :key="note" class="muted small">{{ note }}</p>
      </li>
    </ul>
    <template v-if="source.kind !== 'page'">
      <v-btn @click="picker?.click()">Add pictures to {{ source.kind === 'board' ? 'the board' : 'make a board' }}…</v-btn>
      <input ref="picker" type="file" multiple :accept="accept" hidden data-testid="more-pictures" @change="add" />
    </template>
  </section>
</template>

<style scoped>
.scrolls {
  flex: 1;
  padding: 14px;
}
.scrolls :deep(.drop) {
  margin: 0 0 8px;
}
li {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 4px;
  padding: 8px 0;
  border-top: 1px solid var(--hair);
}
.head {
  display: flex;
  gap: 4px;
  align-items: center;
}
.head strong {
  flex: 1;
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
label,
.one {
  display: grid;
  grid-template-columns: 52px 1fr;
  align-items: center;
  font-size: 13px;
}
.mark {
  font-size: 12px;
  font-weight: 700;
}
</style>
