<script setup lang="ts">
import { useEventListener, useTimeoutFn } from '@vueuse/core'
import { ref, shallowRef } from 'vue'

/** What `v-hint` has to say, shown one at a time for the whole application: a page has hundreds of them. */
const at = shallowRef<HTMLElement>()
const words = ref('')
const open = ref(false)
const { start, stop } = useTimeoutFn(() => (open.value = !!at.value?.isConnected), 350, { immediate: false })

function come(event: Event): void {
  const found = event.target instanceof Element ? event.target.closest<HTMLElement>('[data-hint]') : null
  if (found === at.value && found?.dataset.hint === words.value) return
  leave()
  if (!found) return
  at.value = found
  words.value = found.dataset.hint ?? ''
  start()
}

function leave(): void {
  stop()
  open.value = false
  at.value = undefined
}

useEventListener(document, 'pointerover', come, { passive: true })
useEventListener(document, 'focusin', (event) => {
  if (event.target instanceof Element && event.target.matches(':focus-visible')) come(event)
})
useEventListener(document, ['pointerdown', 'focusout', 'scroll'], leave, { passive: true, capture: true })
useEventListener(document, 'keydown', (event) => event.key === 'Escape' && leave())
</script>

<template>
  <v-tooltip
    v-if="at"
    :model-value="open"
    :target="at"
    :open-on-hover="false"
    :transition="false"
    location="bottom"
    offset="6"
    max-width="320"
    :text="words"
  />
</template>
