import { queryOptions, useMutation, useQuery } from '@tanstack/vue-query'
import { toValue, type MaybeRefOrGetter } from 'vue'

import { client, form, lookAgain, queryClient, taken, type SourceView } from './client'
import type { components } from './schema'

type Schemas = components['schemas']
type Id = MaybeRefOrGetter<string | undefined>

/** Lists of sources, of whatever kit, and what is known of one source, beside whatever state of its kit. */
const lists = ['sources'] as const
const known = (id: string) => ['source', id] as const

const sourcesOf = (kitId = '') =>
  queryOptions({
    queryKey: [...lists, kitId],
    queryFn: () => taken(client.GET('/api/kits/{kit_id}/sources', { params: { path: { kit_id: kitId } } })),
    enabled: !!kitId,
  })

/** A source; it is asked for again when the kit changes, since it tells what the kit has of it. */
const theSource = (id = '', revision: number) =>
  queryOptions({
    queryKey: [...known(id), revision],
    queryFn: () => taken(client.GET('/api/sources/{source_id}', { params: { path: { source_id: id } } })),
    enabled: !!id,
    placeholderData: (last: SourceView | undefined) => (last?.id === id ? last : undefined),
  })

export const useSources = (kitId: Id) => useQuery(() => sourcesOf(toValue(kitId)))

export const useSource = (id: Id, revision: MaybeRefOrGetter<number>) => useQuery(() => theSource(toValue(id), toValue(revision)))

/** Lists of sources and kits are asked for again: they tell of each source. */
const tellAgain = () => Promise.all([lists, ['kit']].map((queryKey) => queryClient.invalidateQueries({ queryKey })))

/** Puts a changed source in the place of the old one. */
function follow(source: SourceView): void {
  queryClient.setQueriesData({ queryKey: known(source.id) }, source)
  void tellAgain()
}

/** Every change of one source. */
export function useSourceChanges(id: Id) {
  const path = () => ({ source_id: toValue(id)! })
  const change = <T>(send: (input: T) => Promise<SourceView>) => useMutation({ mutationFn: send, onSuccess: follow, onError: lookAgain })
  return {
    rename: change((body: Schemas['SourceChange']) =>
      taken(client.PATCH('/api/sources/{source_id}', { params: { path: path() }, body })),
    ),
    find: change((body: Schemas['LookingSent']) =>
      taken(client.POST('/api/sources/{source_id}/find', { params: { path: path() }, body })),
    ),
    order: change((ids: string[]) =>
      taken(client.PUT('/api/sources/{source_id}/order', { params: { path: path() }, body: { ids } })),
    ),
    picture: change(({ picture, ...body }: { picture: string } & Schemas['PictureChange']) =>
      taken(
        client.PATCH('/api/sources/{source_id}/pictures/{picture_id}', {
          params: { path: { ...path(), picture_id: picture } },
          body,
        }),
      ),
    ),
    lay: change(({ picture, ...body }: { picture: string } & Schemas['Laid']) =>
      taken(
        client.PUT('/api/sources/{source_id}/pictures/{picture_id}/place', {
          params: { path: { ...path(), picture_id: picture } },
          body,
        }),
      ),
    ),
    inRows: change(() => taken(client.DELETE('/api/sources/{source_id}/places', { params: { path: path() } }))),
    removePicture: change((picture: string) =>
      taken(
        client.DELETE('/api/sources/{source_id}/pictures/{picture_id}', {
          params: { path: { ...path(), picture_id: picture } },
        }),
      ),
    ),
    free: change(({ picture, inside }: { picture: string; inside: boolean }) =>
      taken(
        client.POST('/api/sources/{source_id}/pictures/{picture_id}/freed', {
          params: { path: { ...path(), picture_id: picture } },
          body: { inside },
        }),
      ),
    ),
    setPin: change((body: Schemas['NewPin']) =>
      taken(client.POST('/api/sources/{source_id}/pins', { params: { path: path() }, body })),
    ),
    movePin: change(({ pin, ...body }: { pin: number } & Schemas['PinChange']) =>
      taken(
        client.PATCH('/api/sources/{source_id}/pins/{number}', { params: { path: { ...path(), number: pin } }, body }),
      ),
    ),
    removePin: change((pin: number) =>
      taken(client.DELETE('/api/sources/{source_id}/pins/{number}', { params: { path: { ...path(), number: pin } } })),
    ),
    undo: change(() => taken(client.POST('/api/sources/{source_id}/undo', { params: { path: path() } }))),
    redo: change(() => taken(client.POST('/api/sources/{source_id}/redo', { params: { path: path() } }))),
  }
}

export async function removeSource(id: string): Promise<void> {
  await taken(client.DELETE('/api/sources/{source_id}', { params: { path: { source_id: id } } }))
  queryClient.removeQueries({ queryKey: known(id) })
  await tellAgain()
}

/** Drops files on a kit: they become a source, or a list of codes. */
export async function dropOnKit(kitId: string, body: FormData, signal: AbortSignal) {
  const result = await taken(
    client.POST('/api/kits/{kit_id}/sources/drop', { params: { path: { kit_id: kitId } }, ...form(body), signal }),
  )
  if (result.source) follow(result.source)
  return result
}

/** Adds pictures to a source. */
export async function dropOnSource(sourceId: string, body: FormData, signal: AbortSignal) {
  const result = await taken(
    client.POST('/api/sources/{source_id}/pictures', {
      params: { path: { source_id: sourceId } },
      ...form(body),
      signal,
    }),
  )
  if (result.source) follow(result.source)
  return result
}

export async function readAddress(kitId: string, address: string): Promise<SourceView> {
  const source = await taken(
    client.POST('/api/kits/{kit_id}/sources/address', { params: { path: { kit_id: kitId } }, body: { address } }),
  )
  follow(source)
  return source
}

/** What stands at a place of a source's picture. */
export function spotAt(sourceId: string, x: number, y: number, reach: Schemas['Reach'], signal: AbortSignal) {
  return taken(
    client.GET('/api/sources/{source_id}/spot', {
      params: { path: { source_id: sourceId }, query: { x, y, reach } },
      signal,
    }),
  )
}

export function sourcePictureUrl(source: { id: string; fingerprint: string }, side = 1600): string {
  return `/api/sources/${source.id}/picture?fingerprint=${source.fingerprint}&side=${side}`
}

/** One picture of a board, all of it. */
export function pictureAloneUrl(source: string, picture: { id: string; digest: string }, side = 800): string {
  return `/api/sources/${source}/pictures/${picture.id}/picture?digest=${picture.digest}&side=${side}`
}

export function readCodeFile(file: File, kitId: string | undefined) {
  const body = new FormData()
  body.append('file', file)
  return taken(
    client.POST('/api/code-file', { params: { query: { kit_id: kitId } }, ...form<{ file: string }>(body) }),
  )
}
