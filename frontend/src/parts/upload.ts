import { reactive } from 'vue'

import { ProblemError, type Refusal } from '@/api/client'

/** A drop on its way: how far it is, and what was refused so far. */
export interface Drop {
  total: number
  done: number
  taken: number
  refused: Refusal[]
  /** How many were refused, where not all of them are listed. */
  refusals?: number
  running: boolean
  cancel: () => void
  /** What is going on, where it is not simply under way. */
  words?: string
  /** Brings refused files to new sets of the channels that take them, and what that does in words. */
  elsewhere?: { words: string; bring: () => Promise<void> }
  /** Ends a drop that waits for files nobody sends, with what has come. */
  finish?: () => void
}

const BATCH_FILES = 40
const BATCH_BYTES = 24 * 1024 * 1024

/** What became of one batch. */
export interface Sent {
  taken: number
  refused: Refusal[]
}

/** Sends a batch. */
export type Send = (body: FormData, signal: AbortSignal) => Promise<Sent>

/** Sends files in batches, so that the screen fills as they arrive and a cancel takes effect at once. */
export async function dropFiles(files: File[], send: Send, show: (drop: Drop) => void): Promise<Drop> {
  const abort = new AbortController()
  const drop: Drop = reactive({
    total: files.length,
    done: 0,
    taken: 0,
    refused: [],
    running: true,
    cancel: () => abort.abort(),
  })
  show(drop)
  try {
    for (const batch of batches(files)) {
      const result = await sendBatch(batch, send, abort.signal)
      drop.done += batch.length
      drop.taken += result.taken
      drop.refused.push(...result.refused)
    }
  } catch (error) {
    if (!(error instanceof DOMException && error.name === 'AbortError')) throw error
  } finally {
    drop.running = false
  }
  return drop
}

/** Sends one batch; one that is too large as a whole is refused like any other file, and the rest goes on. */
async function sendBatch(batch: File[], send: Send, signal: AbortSignal): Promise<Sent> {
  try {
    return await send(asForm(batch), signal)
  } catch (error) {
    if (!(error instanceof ProblemError && error.status === 413)) throw error
    return { taken: 0, refused: batch.map((file) => ({ name: file.name, reason: error.message })) }
  }
}

/** A drop in words, for the status line. */
export function dropped(drop: Drop): string {
  const count = drop.refusals ?? drop.refused.length
  const refused = count ? `, ${count} refused` : ''
  return `${drop.taken} ${drop.taken === 1 ? 'file' : 'files'} taken${refused}`
}

/** The name of a file with the folders it was dropped in. */
export const pathOf = (file: File): string => file.webkitRelativePath || file.name

export function asForm(files: File[]): FormData {
  const body = new FormData()
  for (const file of files) body.append('files', file, pathOf(file))
  return body
}

export function* batches(files: File[]): Generator<File[]> {
  let batch: File[] = []
  let bytes = 0
  for (const file of files) {
    if (batch.length === BATCH_FILES || (batch.length && bytes + file.size > BATCH_BYTES)) {
      yield batch
      batch = []
      bytes = 0
    }
    batch.push(file)
    bytes += file.size
  }
  if (batch.length) yield batch
}

/** The files of a drop, folders opened. */
export async function filesOf(transfer: DataTransfer): Promise<File[]> {
  const entries = [...transfer.items].map((item) => item.webkitGetAsEntry?.()).filter((entry) => !!entry)
  if (!entries.length) return [...transfer.files]
  const found: File[] = []
  for (const entry of entries) await collect(entry, '', found)
  return found
}

async function collect(entry: FileSystemEntry, path: string, found: File[]): Promise<void> {
  if (entry.isFile) {
    const file = await new Promise<File>((resolve, reject) => (entry as FileSystemFileEntry).file(resolve, reject))
    found.push(path ? new File([file], `${path}${file.name}`, { type: file.type }) : file)
    return
  }
  const reader = (entry as FileSystemDirectoryEntry).createReader()
  for (;;) {
    const some = await new Promise<FileSystemEntry[]>((resolve, reject) => reader.readEntries(resolve, reject))
    if (!some.length) return
    for (const child of some) if (!child.name.startsWith('.')) await collect(child, `${path}${entry.name}/`, found)
  }
}
