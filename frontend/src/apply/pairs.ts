import type { components } from '@/api/schema'
import type { Option } from '@/parts/picking'

type Schemas = components['schemas']
export type Pair = Schemas['GroundAndInkView']
export type Part = Schemas['PartView']

/** What names a pair of a ground and an ink in a list. */
export const keyOf = (pair: { ground: string; ink: string }): string => `${pair.ink} on ${pair.ground}`

/** The ground and the ink that a key of `keyOf` names. */
export function named(key: string): { ground: string; ink: string } {
  const [ink, ground] = key.split(' on ') as [string, string]
  return { ground, ink }
}

/** Pairs to choose from, with that which is so though it is not offered. */
export function pairOptions(pairs: readonly Pair[], now?: { ground: string; ink: string; title: string } | null): Option<string>[] {
  const listed = pairs.map((pair) => ({
    value: keyOf(pair),
    title: pair.title,
    sample: { ground: pair.ground_hex, ink: pair.ink_hex },
    words: `${pair.ratio}:1${pair.approved ? ', approved' : ''}`,
  }))
  const missing = now && !listed.some((one) => one.value === keyOf(now))
  return missing ? [{ value: keyOf(now), title: now.title }, ...listed] : listed
}
