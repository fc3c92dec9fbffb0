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
  unread: 'with text that does not read',
  out: 'left out',
  handed: 'handed over',
  moving: 'moving',
}
