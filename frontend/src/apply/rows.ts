import type { PaintView } from '@/api/client'

/** The paints that are in a row behind its first: near-equals of other pictures. */
export function inRow(paints: readonly PaintView[], key: string): PaintView[] {
  return paints.filter((paint) => paint.row === key && paint.part === null)
}

/** The paints to list: rows that are closed show their first paint, others all behind it. */
export function listedRows(paints: readonly PaintView[], opened: readonly string[]): PaintView[] {
  const behind = new Map<string, PaintView[]>()
  for (const paint of paints) if (paint.row !== null) behind.set(paint.row, [...(behind.get(paint.row) ?? []), paint])
  if (!behind.size) return [...paints]
  return paints.flatMap((paint, at) => {
    if (paint.row !== null) return []
    // Behind the last of its own parts.
    const last = paints[at + 1]?.key.split('@')[0] !== paint.key.split('@')[0]
    const key = paint.key.split('@')[0]!
    return [paint, ...(last && opened.includes(key) ? (behind.get(key) ?? []) : [])]
  })
}

/** What goes along with a paint that is aimed: all of its row while that is closed. */
export function goingAlong(paints: readonly PaintView[], key: string, opened: readonly string[]): string[] {
  return opened.includes(key) ? [key] : [key, ...inRow(paints, key).map((paint) => paint.key)]
}
