import type { DecisionView, Level, PairsView, Role, Status, Use } from '@/api/client'

/** A pair by the places of its text and ground among the subjects. */
export interface At {
  text: number
  ground: number
}

export interface Filter {
  level: Level | ''
  role: Role | ''
  color: string
  decision: Status | 'reopened' | ''
}

export const LEVEL_WORDS: Record<Level, string> = {
  AAA: 'AAA text, 7',
  AA: 'AA text, 4.5',
  large: 'large and graphics, 3',
  none: 'not readable',
}

/** Decisions by pair, for looking up while drawing. */
export function decisionsOf(pairs: PairsView): Map<number, DecisionView> {
  const size = pairs.subjects.length
  return new Map(pairs.decisions.map((decision) => [decision.ground * size + decision.text, decision]))
}

export function levelOf(pairs: PairsView, { text, ground }: At): Level {
  return pairs.level_names[pairs.levels[ground]![text]!]!
}

/** The most demanding use a pair may be approved for. */
export function useOf(pairs: PairsView, { text, ground }: At): Use {
  return pairs.use_names[pairs.uses[ground]![text]!]!
}

export function passes(pairs: PairsView, decisions: Map<number, DecisionView>, filter: Filter, at: At): boolean {
  if (at.text === at.ground) return false
  if (filter.level && levelOf(pairs, at) !== filter.level) return false
  const two = [pairs.subjects[at.text]!, pairs.subjects[at.ground]!]
  if (filter.role && !two.some((subject) => subject.role === filter.role)) return false
  if (filter.color && !two.some((subject) => subject.color === filter.color)) return false
  if (!filter.decision) return true
  const decision = decisions.get(at.ground * pairs.subjects.length + at.text)
  if (filter.decision === 'reopened') return !!decision?.reopened && decision.status === 'open'
  return (decision?.status ?? 'open') === filter.decision
}

export type Sort = 'best' | 'worst' | 'kit'

export function listed(pairs: PairsView, decisions: Map<number, DecisionView>, filter: Filter, sort: Sort): At[] {
  const found: At[] = []
  const size = pairs.subjects.length
  for (let ground = 0; ground < size; ground += 1)
    for (let text = 0; text < size; text += 1)
      if (passes(pairs, decisions, filter, { text, ground })) found.push({ text, ground })
  if (sort === 'kit') return found
  const sign = sort === 'best' ? -1 : 1
  const ratio = (at: At) => Number(pairs.ratios[at.ground]![at.text]!)
  return found.sort((a, b) => sign * (ratio(a) - ratio(b)))
}

/** A decision in one word. */
export function decisionWord(decision: DecisionView | undefined): string {
  if (!decision) return 'open'
  if (decision.status === 'open') return decision.reopened ? 'open again' : 'open'
  return decision.status === 'approved' ? `approved, ${decision.use}` : 'declined'
}
