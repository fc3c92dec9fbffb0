import { onScopeDispose } from 'vue'

/**
 * Asks for what a drag moves to: one question at a time, and always the newest next, so that the answer follows the
 * hand however fast it moves and nothing piles up.
 */
export function useLatest<Q, A>(ask: (question: Q, signal: AbortSignal) => Promise<A>, take: (answer: A) => void, fail: (error: unknown) => void) {
  let running: AbortController | undefined
  let waiting: { question: Q } | undefined

  async function next(): Promise<void> {
    const { question } = waiting!
    waiting = undefined
    running = new AbortController()
    try {
      const answer = await ask(question, running.signal)
      if (!running.signal.aborted) take(answer)
    } catch (error) {
      if (!(error instanceof DOMException)) fail(error)
    }
    running = undefined
    if (waiting) void next()
  }

  function put(question: Q): void {
    waiting = { question }
    if (!running) void next()
  }

  function stop(): void {
    waiting = undefined
    running?.abort()
  }

  onScopeDispose(stop)
  return { put }
}
