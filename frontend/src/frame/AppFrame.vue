<script setup lang="ts">
import { useEventListener, useMutationObserver } from '@vueuse/core'
import { computed, nextTick, useTemplateRef, watch } from 'vue'
import { useRoute } from 'vue-router'

import { useKit } from '@/api/kits'
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

const stage = useTemplateRef('stage')
const skip = () => stage.value?.focus()

/** Regions of the screen, in order; F6 goes to the next, with the shift key to the one before. What a region ends with,
    where it is taken along or begun, is one of its own. */
const REGIONS = 'nav.stages, section.line, main :is(section, aside, nav):is([aria-label], [aria-labelledby])'
const ENDS = 'main section > footer'
const STOPS = 'a[href], button:not(:disabled), input:not(:disabled, [type=hidden]), textarea, [tabindex="0"]'
useEventListener(window, 'keydown', (event: KeyboardEvent) => {
  if (event.key !== 'F6') return
  event.preventDefault()
  const found = [...document.querySelectorAll<HTMLElement>(`${REGIONS}, ${ENDS}`)]
  const all = found.filter((one) => one.offsetParent && one.querySelector(STOPS))
  const regions = all.filter((one) => one.matches(ENDS) || !all.some((other) => other !== one && other.contains(one)))
  const at = document.activeElement
  let here = regions.indexOf(regions.filter((one) => one.contains(at)).at(-1)!)
  // From the work itself, where it was gone to, to the first region of it.
  if (here < 0 && at === stage.value) here = regions.findIndex((one) => stage.value?.contains(one)) - (event.shiftKey ? 0 : 1)
  const next = regions[(here + (event.shiftKey ? -1 : 1) + regions.length) % regions.length]
  next?.querySelector<HTMLElement>(STOPS)?.focus()
})

/** Whoever goes to another stage by its link goes on in the work there, not in the row of links. */
watch(
  () => route.name,
  async () => {
    await nextTick()
    // Not from whoever is at the next link already.
    if (document.activeElement?.closest('nav.stages [aria-current]')) stage.value?.focus({ preventScroll: true })
  },
)

/** What had the focus last: where it is taken off the page, the work gets it, so that it never falls to the page. */
let focused: EventTarget | null = null
useEventListener(document, 'focusin', (event) => (focused = event.target))
useMutationObserver(
  document.body,
  () => {
    if (!(focused instanceof HTMLElement) || focused.isConnected || document.activeElement !== document.body) return
    focused = null
    stage.value?.focus({ preventScroll: true })
  },
  { childList: true, subtree: true },
)

useSurround()
useHistoryKeys()
</script>

<template>
  <div class="frame">
    <a class="skip" href="#stage" @click.prevent="skip">To the work</a>
    <HeadBar :kit="kit" />
    <StageRow v-if="kitId" :kit="kit" :kit-id="kitId" />
    <KitLine v-if="kitId" :kit="kit" />
    <main id="stage" ref="stage" class="stage" tabindex="-1">
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
.skip {
  position: absolute;
  z-index: 30;
  padding: 6px 12px;
  background: var(--strong);
  color: var(--on-strong);
  transform: translateY(-200%);
}
.skip:focus {
  transform: none;
}
.stage:focus-visible {
  outline-offset: -2px;
}
.stage {
  flex: 1;
  min-height: 0;
  display: flex;
  flex-direction: column;
}
</style>
