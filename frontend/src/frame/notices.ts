import { ref, shallowRef } from 'vue'

import { ProblemError } from '@/api/client'

export interface Notice {
  text: string
  problem: boolean
  id: string
}

/** What the status line says last. */
export const notice = shallowRef<Notice | null>(null)

/** A change that somebody else's stands in the way of, until one has said what is to become of both. */
export const conflict = shallowRef<ProblemError | null>(null)

/** How many changes were refused or failed: what a control shows is then what is so again. */
export const refusals = ref(0)

export function say(text: string): void {
  notice.value = { text, problem: false, id: '' }
}

/** Shows an error in words; anything that is not a problem from the server is a fault of ours and thrown on. */
export function complain(error: unknown): void {
  refusals.value += 1
  if (!(error instanceof ProblemError)) throw error
  if (error.clashes.length) conflict.value = error
  else if (error.status !== 401) notice.value = { text: error.message, problem: true, id: error.id }
}

export async function copy(code: string): Promise<void> {
  try {
    await navigator.clipboard.writeText(code)
    say(`Copied ${code}`)
  } catch {
    notice.value = { text: `The browser does not let us copy here; the code is ${code}`, problem: true, id: '' }
  }
}
