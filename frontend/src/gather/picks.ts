import { ref, watch, type Ref } from 'vue'

import type { Candidate, Role } from '@/api/client'

interface Decision {
  name: string
  role: Role
  ticked: boolean
  /** What it is mixed to before it is taken; nothing where it goes in as it was found. */
  mixed?: string | undefined
}

/** A candidate with what was decided about it; `start` is what was proposed. */
export type Pick = Candidate & Decision & { start: Decision }

/** The candidates to decide about; what a person decided stays while they are found anew. */
export function usePicks(found: () => Candidate[]): Ref<Pick[]> {
  const picks = ref<Pick[]>([])
  const decided = new Map<string, Partial<Decision>>()
  watch(
    found,
    (candidates) => {
      for (const pick of picks.value) decided.set(pick.hex, changes(pick))
      picks.value = candidates.map((candidate) => toPick(candidate, decided.get(candidate.hex)))
    },
    { immediate: true },
  )
  return picks
}

function toPick(candidate: Candidate, decided: Partial<Decision> = {}): Pick {
  const start = { name: candidate.name, role: candidate.role, ticked: candidate.certain && !candidate.known_as }
  const pick = { ...candidate, ...start, ...decided, start }
  // A color that has come into the kit meanwhile is not to be added again.
  if (candidate.difference === 'same') pick.ticked = false
  return pick
}

function changes(pick: Pick): Partial<Decision> {
  const changed: Partial<Decision> = {}
  if (pick.name !== pick.start.name) changed.name = pick.name
  if (pick.role !== pick.start.role) changed.role = pick.role
  if (pick.ticked !== pick.start.ticked) changed.ticked = pick.ticked
  if (pick.mixed) changed.mixed = pick.mixed
  return changed
}
