import type { Only, Order } from '@/api/client'

export const ORDERS: Record<Order, string> = {
  set: 'as added',
  name: 'by name',
  paints: 'most paints first',
  odd: 'odd ones first',
  findings: 'with remarks first',
}

export const FILTERS: Record<Only, string> = {
  all: 'all files',
  one: 'one color',
  several: 'several colors',
  stroke: 'drawn in strokes',
  filled: 'filled',
  odd: 'odd ones out',
  remarks: 'with remarks',
  own: 'with exceptions',
  weak: 'hard to see on this ground',
  unread: 'text does not read',
  worse: 'text reads less well',
  out: 'left out',
  handed: 'handed over',
  moving: 'moving',
}
