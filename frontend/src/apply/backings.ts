import type { KitView, SetView } from '@/api/client'

/** The shapes that can be laid behind a drawing, as the server names them. */
export const BACKINGS = ['circle', 'rounded square', 'square', 'flag'] as const

type Backing = NonNullable<SetView['backing']>

/** The backing of a set, or one to begin with, changed in some respects; null takes it away. */
export function backing(set: SetView, kit: KitView, change: Partial<Backing> | null): Backing | null {
  if (change === null) return null
  const now = set.backing ?? { shape: 'rounded square', color: `${kit.colors[0]!.key}.base`, padding: 18, size: 100 }
  return { ...now, ...change }
}

/** What a list of shapes says: the first entry is none. */
export function shapeOf(event: Event): Pick<Backing, 'shape'> | null {
  const value = (event.target as HTMLSelectElement).value
  return value ? { shape: value as Backing['shape'] } : null
}
