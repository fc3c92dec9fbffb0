import { ref, watch, type Ref } from 'vue'

import type { Candidate, KitView } from '@/api/client'
import { readCodes } from '@/api/kits'
import { complain } from '@/frame/notices'

/** Codes picked up somewhere, as candidates for the kit: named, with a role, and with what the kit has of them. */
export function useCandidates(kit: () => KitView, codes: () => string[]): Ref<Candidate[]> {
  const found = ref<Candidate[]>([])
  let running: AbortController | undefined
  watch(
    [codes, () => kit().history.revision],
    async ([asked]) => {
      running?.abort()
      if (!asked.length) {
        found.value = []
        return
      }
      running = new AbortController()
      try {
        const read = await readCodes(asked.join('\n'), kit().id, running.signal)
        // Where they stood in this list of ours tells nobody anything.
        found.value = read.found.map((one) => ({ ...one, where: '', context: '' }))
      } catch (error) {
        if (!(error instanceof DOMException)) complain(error)
      }
    },
    { immediate: true },
  )
  return found
}
