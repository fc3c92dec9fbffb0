import { QueryClient } from '@tanstack/vue-query'
import createClient from 'openapi-fetch'

import type { components, paths } from './schema'

type Schemas = components['schemas']
export type KitView = Schemas['KitView']
export type KitEntry = Schemas['KitEntry']
export type ColorView = Schemas['ColorView']
export type Answer = Schemas['Answer']
export type Candidate = Schemas['Candidate']
export type Role = Schemas['Role']
export type Level = Schemas['Level']
export type PairView = Schemas['PairView']
export type SetView = Schemas['SetView']
export type SetEntry = Schemas['SetEntry']
export type PaintView = Schemas['PaintView']
export type AssetView = Schemas['AssetView']
export type Refusal = Schemas['Refusal']
export type DropResult = Schemas['DropResult']
export type StrangePaint = Schemas['StrangePaint']

/** An answer that says no, in words for the person at the screen. */
export class ProblemError extends Error {
  constructor(
    detail: string,
    readonly status: number,
    readonly id: string,
  ) {
    super(detail)
  }
}

export const client = createClient<paths>({ baseUrl: '' })

export const queryClient = new QueryClient({
  defaultOptions: { queries: { retry: false, staleTime: 5_000, refetchOnWindowFocus: false } },
})

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
  const problem = answer.error as { detail?: string; id?: string } | undefined
  throw new ProblemError(problem?.detail ?? 'It did not work.', answer.response.status, problem?.id ?? '')
}
