import { QueryClient } from '@tanstack/vue-query'
import createClient from 'openapi-fetch'
import { reactive } from 'vue'

import type { components, paths } from './schema'

type Schemas = components['schemas']
export type KitView = Schemas['KitView']
export type ColorView = Schemas['ColorView']
export type Answer = Schemas['Answer']
export type Candidate = Schemas['Candidate']
export type Role = Schemas['Role']
export type Level = Schemas['Level']
export type PairsView = Schemas['PairsView']
export type SubjectView = Schemas['SubjectView']
export type DecisionView = Schemas['DecisionView']
export type AdditionView = Schemas['AdditionView']
export type NudgeView = Schemas['NudgeView']
export type TrioView = Schemas['TrioView']
export type SeeThroughView = Schemas['SeeThroughView']
export type SeeThrough = Schemas['SeeThrough']
export type Vision = Schemas['Vision']
export type Use = Schemas['Use']
export type Rules = Schemas['Rules']
export type Status = Schemas['Status']
export type DifferenceView = Schemas['DifferenceView']
export type LinkView = Schemas['LinkView']
export type FormView = Schemas['FormView']
export type Person = Schemas['Person']
export type AccessRole = Schemas['AccessRole']
export type ClashView = Schemas['ClashView']
export type SetView = Schemas['SetView']
export type PaintView = Schemas['PaintView']
export type AssetView = Schemas['AssetView']
export type FileView = Schemas['FileView']
export type Only = Schemas['Only']
export type Order = NonNullable<NonNullable<paths['/api/sets/{set_id}/files']['get']['parameters']['query']>['order']>
export type FiguresView = Schemas['FiguresView']
export type Recipe = Schemas['Recipe-Output']
export type ExportView = Schemas['ExportView']
export type Refusal = Schemas['Refusal']
export type StrangePaint = Schemas['StrangePaint']
export type Candidates = Schemas['Candidates']
export type SourceView = Schemas['SourceView']
export type SourceEntry = Schemas['SourceEntry']
export type PinView = Schemas['PinView']
export type PictureView = Schemas['PictureView']
export type Spot = Schemas['Spot']
export type Reach = Schemas['Reach']
export type Family = Schemas['HueFamily']
export type SchemeAsked = Schemas['SchemeAsked']
export type SchemeView = Schemas['SchemeView']
export type ProposalView = Schemas['ProposalView']
export type LayoutView = Schemas['LayoutView']
export type SlotView = Schemas['SlotView']

/** An answer that says no, in words for the person at the screen. `clashes`: what somebody else changed meanwhile. */
export class ProblemError extends Error {
  constructor(
    detail: string,
    readonly status: number,
    readonly id: string,
    readonly clashes: ClashView[] = [],
    readonly again?: ((record: number) => Promise<Response>) | undefined,
  ) {
    super(detail)
  }
}

export const client = createClient<paths>({ baseUrl: '', fetch: told })

export const queryClient = new QueryClient({
  // Answers are replaced, never changed: to watch each number in them would take longer than all else that is drawn.
  defaultOptions: { queries: { retry: false, staleTime: 5_000, refetchOnWindowFocus: false, shallow: true } },
})

/** Requests that change something and are on their way: when each began, and whether the line was lost meanwhile. */
export const underway = reactive(new Map<symbol, { since: number; lost: boolean }>())

/** How often a change is sent again when no answer came, and after how long (milliseconds). */
const AGAIN = [500, 1_000, 2_000, 4_000, 8_000, 8_000, 8_000]

/**
 * `fetch` that tells what is under way, and sends again what no answer came to. Only what may be sent twice is: what
 * puts or takes away says what is to be, and is the same done once or twice.
 */
async function told(request: Request): Promise<Response> {
  if (request.method === 'GET') return fetch(request)
  const mark = Symbol(request.url)
  const repeatable = request.method === 'PUT' || request.method === 'DELETE' || request.method === 'PATCH'
  underway.set(mark, { since: Date.now(), lost: false })
  try {
    for (const pause of repeatable ? AGAIN : []) {
      try {
        return await fetch(request.clone())
      } catch (error) {
        if (request.signal.aborted) throw error
        underway.set(mark, { since: underway.get(mark)!.since, lost: true })
        await new Promise((resolve) => setTimeout(resolve, pause))
      }
    }
    return await fetch(request)
  } finally {
    underway.delete(mark)
  }
}

/** The record each kit was last seen at: what others did since must not be overwritten unseen. */
const seen = new Map<string, number>()

export function sawKit(kit: { id: string; record: number }): void {
  seen.set(kit.id, Math.max(kit.record, seen.get(kit.id) ?? 0))
}

/** Changes as they were sent, by their request and then by the answer that refused them. */
const copies = new WeakMap<Request, Request>()
const refused = new WeakMap<Response, Request>()

/** Names this window: what one does in another one must not be overwritten unseen either. */
const WINDOW = crypto.getRandomValues(new Uint32Array(4)).join('-').slice(0, 40)

client.use({
  onRequest({ request }) {
    if (request.method !== 'GET') request.headers.set('Pavese-Window', WINDOW)
    const kit = /\/api\/kits\/([^/?]+)/.exec(request.url)?.[1]
    const record = kit === undefined ? undefined : seen.get(kit)
    if (request.method === 'GET' || record === undefined) return undefined
    request.headers.set('If-Match', `"${record}"`)
    copies.set(request, request.clone())
    return request
  },
  onResponse({ request, response }) {
    const copy = copies.get(request)
    if (response.status === 409 && copy) refused.set(response, copy)
    return undefined
  },
})

/** Sends a refused change once more, as made on what is there now. */
function again(response: Response): ((record: number) => Promise<Response>) | undefined {
  const copy = refused.get(response)
  if (!copy) return undefined
  return (record) => {
    const headers = new Headers(copy.headers)
    headers.set('If-Match', `"${record}"`)
    return fetch(new Request(copy, { headers }))
  }
}

interface Reply<T> {
  data?: T
  error?: unknown
  response: Response
}

/** The data of an answer; a problem becomes an error, and so does a server that is not there. */
export async function taken<T>(asked: Promise<Reply<T>>): Promise<T> {
  let answer: Reply<T>
  try {
    answer = await asked
  } catch (error) {
    if (error instanceof DOMException && error.name === 'AbortError') throw error
    throw new ProblemError('Pavese does not answer. Is it still running? Nothing was lost; try again.', 0, '')
  }
  if (answer.response.ok) return answer.data as T
  const { response } = answer
  const problem = answer.error as Partial<Schemas['Problem']> | undefined
  if (response.status === 401) queryClient.setQueryData(['me'], null)
  throw new ProblemError(
    problem?.detail ?? 'It did not work.',
    response.status,
    problem?.id ?? '',
    problem?.clashes ?? [],
    again(response),
  )
}

/** What was refused because something is otherwise by now is looked at again. */
export function lookAgain(error: Error): void {
  if (error instanceof ProblemError && (error.status === 409 || error.status === 404)) void queryClient.invalidateQueries()
}

/** What openapi-fetch needs to send a form with files; the generated type describes the files as strings. */
export function form<T = { files: string[] }>(body: FormData): { body: T; bodySerializer: () => FormData } {
  return { body: body as unknown as T, bodySerializer: () => body }
}
