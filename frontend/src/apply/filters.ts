import type { AssetView } from '@/api/client'

/** Above this many spreads from the middle of its set a file is the odd one out. */
export const ODD = 2

export const ORDERS = {
  set: { label: 'as added', of: () => 0 },
  name: { label: 'by name', of: () => 0 },
  paints: { label: 'most paints first', of: (asset: AssetView) => -asset.traits.paints },
  odd: { label: 'odd ones first', of: (asset: AssetView) => -asset.traits.apart },
  findings: { label: 'with remarks first', of: (asset: AssetView) => -asset.remarks.length },
} as const
export type Order = keyof typeof ORDERS

/** Whether a figure cannot be told from the ground it is shown on. */
export type Weak = (id: string) => boolean

export const FILTERS: Record<string, { label: string; holds: (asset: AssetView, weak: Weak) => boolean }> = {
  all: { label: 'all files', holds: () => true },
  one: { label: 'one color', holds: (asset) => asset.traits.paints <= 1 },
  several: { label: 'several colors', holds: (asset) => asset.traits.paints > 1 },
  stroke: { label: 'drawn in strokes', holds: (asset) => asset.traits.stroked },
  filled: { label: 'filled', holds: (asset) => !asset.traits.stroked },
  odd: { label: 'odd ones out', holds: (asset) => asset.traits.apart > ODD },
  remarks: { label: 'with remarks', holds: (asset) => asset.remarks.length > 0 },
  own: { label: 'with exceptions', holds: (asset) => asset.exceptions > 0 || asset.kept },
  weak: { label: 'hard to see on this ground', holds: (asset, weak) => weak(asset.id) },
  out: { label: 'left out', holds: (asset) => asset.left_out },
  moving: { label: 'moving', holds: (asset) => asset.moves },
}

export function arranged(assets: AssetView[], order: Order, filter: string, text: string, weak: Weak): AssetView[] {
  const wanted = text.trim().toLowerCase()
  const holds = FILTERS[filter]?.holds ?? (() => true)
  const found = assets.filter((asset) => holds(asset, weak) && (!wanted || asset.name.toLowerCase().includes(wanted)))
  if (order === 'name') return found.sort((a, b) => a.name.localeCompare(b.name))
  return order === 'set' ? found : found.sort((a, b) => ORDERS[order].of(a) - ORDERS[order].of(b))
}
