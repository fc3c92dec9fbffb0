import { onScopeDispose, reactive, ref, watch, type Ref } from 'vue'
import { useRouter } from 'vue-router'

import { ProblemError } from '@/api/client'
import {
  beginDrop,
  bringLeft,
  cancelDrop,
  closeDrop,
  forgetRefusals,
  getDrop,
  latestDrop,
  PIECE,
  sendFiles,
  sendPiece,
  type DropView,
} from '@/api/drops'
import { askAgain } from '@/api/sets'
import { complain, say } from '@/frame/notices'
import { asForm, batches, dropped, pathOf, type Drop } from '@/parts/upload'

/** Files larger than this are sent in pieces. */
const LARGE = 8 * PIECE
/** Milliseconds between two looks at how far a drop is, and at the set it goes to. */
const FOLLOW_EVERY = 250
const LOOK_EVERY = 1500
/** Pauses before what did not get through is sent again; after the last, one is asked. */
const PAUSES = [1000, 2000, 4000, 8000, 15_000, 30_000]

const pause = (ms: number) => new Promise((resolve) => window.setTimeout(resolve, ms))
const isAway = (error: unknown) => error instanceof ProblemError && (error.status === 0 || error.status === 503)
const isAbort = (error: unknown) => error instanceof DOMException && error.name === 'AbortError'

/** What there is to bring to sets of other channels, by channel. */
function bringing(left: [string, number][]): string {
  const [first, ...others] = left
  if (first && !others.length) return `Bring ${first[1]} to a new set of ${first[0]}`
  return `Bring ${left.map(([channel, files]) => `${files} ${channel}`).join(', ')} to new sets`
}

/**
 * Files on their way into a set: sent, followed while they are read, and found again after a reload, as is what was
 * refused until one closes the note. What has arrived is the server's, so a lost connection or a closed page loses
 * nothing of it.
 */
export function useArriving(kitId: Ref<string>, setId: Ref<string | undefined>) {
  const drop = ref<Drop>()
  /** The set that files have just come to, once all of them are there and it has been asked for anew. */
  const arrived = ref<string>()
  let current: string | undefined
  /** The drop whose note is shown once it has ended. */
  let ended: string | undefined
  let abort = new AbortController()
  const router = useRouter()

  function shown(set: string, view: DropView): Drop {
    drop.value ??= reactive<Drop>({ total: 0, done: 0, taken: 0, refused: [], running: true, cancel: () => void stop(set, view.id) })
    const seen = drop.value
    seen.total = Math.max(view.expected, view.read)
    seen.done = view.read
    seen.taken = view.taken
    seen.refused = view.refused
    seen.refusals = view.refusals
    seen.running = !view.ended
    ended = view.ended ? view.id : undefined
    if (view.ended) seen.words = seen.finish = undefined
    const left = Object.entries(view.left)
    seen.elsewhere = left.length ? { words: bringing(left), bring: () => bring(view.id) } : undefined
    return seen
  }

  /** Brings what sets of other channels take to such, and goes to the first of them. */
  async function bring(id: string): Promise<void> {
    try {
      const [first] = await bringLeft(id)
      if (!first) return
      await askAgain(kitId.value, first.set_id)
      await router.push({ name: 'apply', params: { kitId: kitId.value, setId: first.set_id } })
    } catch (problem) {
      complain(problem)
    }
  }

  async function stop(set: string, id: string): Promise<void> {
    abort.abort()
    await cancelDrop(id).catch(complain)
    if (current !== id) await follow(set, id)
  }

  /** What the files that came did to the plan: what stood stays. */
  function planned(view: DropView): string {
    if (!view.stood) return ''
    const stayed = view.stood === 1 ? '1 as it was' : `${view.stood} as they were`
    return view.planned ? `; ${view.planned} new ${view.planned === 1 ? 'paint' : 'paints'} planned, ${stayed}` : '; no new paints'
  }

  /** Asks again and again until an answer comes; what nobody can answer to is thrown on. */
  async function untilThere<T>(ask: () => Promise<T>): Promise<T> {
    let failed = false
    for (const wait of [...PAUSES, undefined]) {
      try {
        const answer = await ask()
        if (failed && drop.value) drop.value.words = undefined
        return answer
      } catch (error) {
        if (!isAway(error) || wait === undefined) throw error
        if (drop.value) drop.value.words = 'Pavese does not answer; what has arrived is kept. Trying again…'
        failed = true
        await pause(wait)
      }
    }
    throw new Error('unreachable')
  }

  /** Shows how far a drop is until it has ended, and the set as it fills. */
  async function follow(set: string, id: string): Promise<void> {
    current = id
    let looked = -Infinity
    let had = 0
    while (current === id && setId.value === set) {
      const view = await untilThere(() => getDrop(id))
      if (current !== id || setId.value !== set) return
      const seen = shown(set, view)
      if (!view.receiving) seen.finish = seen.words = undefined
      const now = performance.now()
      if (view.ended || (view.taken > had && now - looked > LOOK_EVERY)) {
        looked = now
        had = view.taken
        await askAgain(kitId.value, set)
      }
      if (view.ended) {
        current = undefined
        if (view.taken) arrived.value = set
        say(dropped(seen) + planned(view))
        if (!view.refusals) drop.value = undefined
        return
      }
      await pause(FOLLOW_EVERY)
    }
  }

  async function sendAll(id: string, files: File[]): Promise<void> {
    const small = files.filter((file) => file.size <= LARGE)
    for (const batch of batches(small)) await untilThere(() => sendFiles(id, asForm(batch), abort.signal))
    for (const file of files) {
      if (file.size <= LARGE) continue
      for (let offset = 0; offset < file.size; offset += PIECE) {
        try {
          await untilThere(() => sendPiece(id, file, pathOf(file), offset, abort.signal))
        } catch (error) {
          // It is too large and refused; the others are sent.
          if (!(error instanceof ProblemError && error.status === 413)) throw error
          break
        }
        if (drop.value) drop.value.words = `Sending ${file.name}, ${Math.floor((100 * offset) / file.size)} %`
      }
      if (drop.value) drop.value.words = undefined
    }
  }

  /** Sends files into a set, into the drop that waits for some where there is one, and follows them. */
  async function send(set: string, files: File[]): Promise<void> {
    const open = await latestDrop(set)
    const waiting = open !== null && open.receiving
    const view = waiting ? open : await beginDrop(set, files.length)
    drop.value = undefined
    abort = new AbortController()
    shown(set, view)
    const followed = follow(set, view.id)
    try {
      await sendAll(view.id, files)
      await untilThere(() => closeDrop(view.id))
    } catch (error) {
      if (!isAbort(error)) throw error
    }
    await followed
  }

  /** A drop that is under way when one comes to a set, whoever began it may have gone; one's own, while it has a note. */
  async function find(set: string): Promise<void> {
    const view = await latestDrop(set)
    if (!view || current === view.id || setId.value !== set) return
    if (view.ended && !(view.mine && view.refusals)) return
    const seen = shown(set, view)
    if (view.ended) return
    if (view.receiving) {
      seen.words = `${view.arrived} of ${view.expected} files have arrived. Drop the files again to send the rest.`
      seen.finish = () => void closeDrop(view.id).catch(complain)
    }
    await follow(set, view.id)
  }

  /** Closes the note on what was refused, for good. */
  function close(): void {
    drop.value = undefined
    if (ended) forgetRefusals(ended).catch(complain)
    ended = undefined
  }

  watch(
    setId,
    (set) => {
      drop.value = current = ended = undefined
      if (set) find(set).catch(complain)
    },
    { immediate: true },
  )
  onScopeDispose(() => (current = undefined))

  return { arrived, close, drop, send }
}
