import type { PictureView } from '@/api/client'
import type { components } from '@/api/schema'

type Schemas = components['schemas']
export type Edge = 'left' | 'top' | 'right' | 'bottom'
export const EDGES: readonly Edge[] = ['left', 'top', 'right', 'bottom']

/** A picture on a board as it is being laid, in pixels of the board, and the part of it that is shown. */
export interface Laid {
  x: number
  y: number
  width: number
  height: number
  part: Schemas['ShownPart']
}

const [LEAST, LEAST_PART] = [40, 0.02]
const within = (value: number, least: number, most: number) => Math.min(Math.max(value, least), Math.max(most, least))

export function laid(picture: PictureView): Laid {
  const { x, y, width, height, part } = picture
  return { x, y, width, height, part }
}

/** Moved by pixels of a board this wide; it stays on the board, which ends nowhere downwards. */
export function moved(one: Laid, across: number, down: number, board: number): Laid {
  return { ...one, x: within(one.x + across, 0, board - one.width), y: Math.max(one.y + down, 0) }
}

/** Made wider or smaller by pixels, at its aspect. */
export function sized(one: Laid, by: number, board: number): Laid {
  const width = within(one.width + by, Math.min(LEAST, one.width), board - one.x)
  return { ...one, width, height: (one.height * width) / one.width }
}

/** With an edge moved by pixels, to the right or down: what is shown stays where it is, and less or more of it is shown. */
export function cut(one: Laid, edge: Edge, by: number, board: number): Laid {
  const part = { ...one.part }
  const sideways = edge === 'left' || edge === 'right'
  const all = sideways ? one.width / (part.right - part.left) : one.height / (part.bottom - part.top)
  // On the board all of the picture may reach to the right, but not to the left or the top of it.
  if (edge === 'left') part.left = within(part.left + by / all, Math.max(part.left - one.x / all, 0), part.right - LEAST_PART)
  else if (edge === 'top') part.top = within(part.top + by / all, Math.max(part.top - one.y / all, 0), part.bottom - LEAST_PART)
  else if (edge === 'right') part.right = within(part.right + by / all, part.left + LEAST_PART, Math.min(part.left + (board - one.x) / all, 1))
  else part.bottom = within(part.bottom + by / all, part.top + LEAST_PART, 1)
  return sideways
    ? { ...one, part, x: one.x + (part.left - one.part.left) * all, width: (part.right - part.left) * all }
    : { ...one, part, y: one.y + (part.top - one.part.top) * all, height: (part.bottom - part.top) * all }
}

/** All of it shown, as large as it is. */
export function whole(one: Laid, board: number): Laid {
  return EDGES.reduce((now, edge) => cut(now, edge, edge === 'left' || edge === 'top' ? -board * 100 : board * 100, board), one)
}

/** As the server is told: whole pixels of the board. */
export function told(one: Laid): Schemas['Laid'] {
  return { lies: { x: Math.round(one.x), y: Math.round(one.y), width: Math.round(one.width) }, part: one.part }
}
