import { queryOptions, useMutation, useQuery } from '@tanstack/vue-query'
import { toValue, type MaybeRefOrGetter } from 'vue'

import { client, lookAgain, queryClient, taken, type SetView } from './client'
import { theKit } from './kits'
import type { components } from './schema'

type Schemas = components['schemas']
type Id = MaybeRefOrGetter<string | undefined>
export type Channel = Schemas['NewSet']['channel']

const path = (set_id: string) => ({ params: { path: { set_id } } })

export const theSet = (id = '') =>
  queryOptions({ queryKey: ['set', id], queryFn: () => taken(client.GET('/api/sets/{set_id}', path(id))), enabled: !!id })

/** Its files as they would be handed over: written and read again. */
const checked = (id = '') =>
  queryOptions({
    queryKey: ['check', id],
    queryFn: () => taken(client.GET('/api/sets/{set_id}/check', path(id))),
    enabled: !!id,
    staleTime: 0,
  })

const packed = (id = '') =>
  queryOptions({
    queryKey: ['package', id],
    queryFn: () => taken(client.GET('/api/sets/{set_id}/package', path(id))),
    enabled: !!id,
    staleTime: 0,
  })

export const useSet = (id: Id) => useQuery(() => theSet(toValue(id)))

export const useCheck = (id: Id) => useQuery(() => checked(toValue(id)))

export const usePackage = (id: Id) => useQuery(() => packed(toValue(id)))

/** What depends on a set's plan and files as they are. */
export const planKey = (set: SetView) => [set.id, set.history.revision, set.files_key] as const

/** Milliseconds after which figures over a whole set follow a change of it: the pictures in view come first. */
export const BEHIND = 600
const told = new Map<string, number>()

/** Puts a changed set in the place of the old one; the kit's stages tell of it. */
export function followSet(set: SetView): void {
  queryClient.setQueryData(theSet(set.id).queryKey, set)
  void queryClient.invalidateQueries(checked(set.id))
  const { queryKey } = theKit(set.kit_id)
  void queryClient.invalidateQueries({ queryKey, refetchType: 'none' })
  window.clearTimeout(told.get(set.kit_id))
  told.set(
    set.kit_id,
    window.setTimeout(() => void queryClient.refetchQueries({ queryKey, type: 'active', stale: true }), BEHIND),
  )
}

/** Every change of one set. */
export function useSetChanges(id: Id) {
  const path = () => ({ set_id: toValue(id)! })
  const change = <T>(send: (input: T) => Promise<SetView>) => useMutation({ mutationFn: send, onSuccess: followSet, onError: lookAgain })
  return {
    aim: change((body: Schemas['Aim']) =>
      taken(client.POST('/api/sets/{set_id}/aim', { params: { path: path() }, body })),
    ),
    describe: change((body: Schemas['SetChange']) =>
      taken(client.PATCH('/api/sets/{set_id}', { params: { path: path() }, body })),
    ),
    recipe: change(({ forget, ...body }: Schemas['Recipe-Input'] & { forget?: boolean }) =>
      taken(client.PUT('/api/sets/{set_id}/recipe', { params: { path: path(), query: { forget } }, body })),
    ),
    choose: change((index: number) =>
      taken(client.POST('/api/sets/{set_id}/alternatives/{index}', { params: { path: { ...path(), index } } })),
    ),
    split: change((body: Schemas['Splitting']) =>
      taken(client.POST('/api/sets/{set_id}/split', { params: { path: path() }, body })),
    ),
    join: change((body: Schemas['Joining']) =>
      taken(client.POST('/api/sets/{set_id}/join', { params: { path: path() }, body })),
    ),
    states: change((body: Schemas['FileStates']) =>
      taken(client.POST('/api/sets/{set_id}/file-states', { params: { path: path() }, body })),
    ),
    keepSelector: change((body: Schemas['SelectorKept']) =>
      taken(client.POST('/api/sets/{set_id}/kept-selectors', { params: { path: path() }, body })),
    ),
    rule: change(({ kind, target }: { kind: Schemas['Kind']; target: string | null }) =>
      taken(client.PUT('/api/sets/{set_id}/rules/{kind}', { params: { path: { ...path(), kind } }, body: { target } })),
    ),
    groundAndInk: change((body: Schemas['GroundAndInkChosen']) =>
      taken(client.PUT('/api/sets/{set_id}/ground-and-ink', { params: { path: path() }, body })),
    ),
    theme: change((body: Schemas['ThemeChosen']) =>
      taken(client.PUT('/api/sets/{set_id}/theme', { params: { path: path() }, body })),
    ),
    samples: change((body: Schemas['SamplesChange']) =>
      taken(client.PUT('/api/sets/{set_id}/samples', { params: { path: path() }, body })),
    ),
    mend: change((body: Schemas['PicturesChange']) =>
      taken(client.PUT('/api/sets/{set_id}/pictures', { params: { path: path() }, body })),
    ),
    keepPicture: change((body: Schemas['PictureKept']) =>
      taken(client.PUT('/api/sets/{set_id}/pictures/kept', { params: { path: path() }, body })),
    ),
    act: change(({ key, ...body }: Schemas['ActChange'] & { key: string }) =>
      taken(client.PUT('/api/sets/{set_id}/acts/{key}', { params: { path: { ...path(), key } }, body })),
    ),
    things: change(({ asset, ...body }: Schemas['Things'] & { asset: string }) =>
      taken(client.PUT('/api/sets/{set_id}/files/{asset_id}/things', { params: { path: { ...path(), asset_id: asset } }, body })),
    ),
    parts: change(({ asset, ...body }: Schemas['Parts'] & { asset: string }) =>
      taken(client.PUT('/api/sets/{set_id}/files/{asset_id}/parts', { params: { path: { ...path(), asset_id: asset } }, body })),
    ),
    samePart: change((body: Schemas['SamePart']) =>
      taken(client.PUT('/api/sets/{set_id}/parts', { params: { path: path() }, body })),
    ),
    headline: change(({ asset, ...body }: Schemas['Headline'] & { asset: string }) =>
      taken(client.PUT('/api/sets/{set_id}/files/{asset_id}/headline', { params: { path: { ...path(), asset_id: asset } }, body })),
    ),
    invite: change((body: Schemas['NewGuests']) =>
      taken(client.POST('/api/sets/{set_id}/guests', { params: { path: path() }, body })),
    ),
    sendAway: change((key: string) =>
      taken(client.DELETE('/api/sets/{set_id}/guests/{key}', { params: { path: { ...path(), key } } })),
    ),
    planAnew: change(() => taken(client.POST('/api/sets/{set_id}/plan', { params: { path: path() } }))),
    removeFile: change((asset: string) =>
      taken(client.DELETE('/api/assets/{asset_id}', { params: { path: { asset_id: asset } } })),
    ),
    undo: change(() => taken(client.POST('/api/sets/{set_id}/undo', { params: { path: path() } }))),
    redo: change(() => taken(client.POST('/api/sets/{set_id}/redo', { params: { path: path() } }))),
  }
}

export async function addVariant(set: SetView, body: Schemas['NewVariant']): Promise<SetView> {
  const made = await taken(
    client.POST('/api/sets/{set_id}/variants', { params: { path: { set_id: set.id } }, body }),
  )
  void queryClient.invalidateQueries({ queryKey: ['set'] })
  followSet(made)
  return made
}

export async function addFromStock(setId: string, ids: string[]): Promise<SetView> {
  const set = await taken(
    client.POST('/api/sets/{set_id}/stock', { params: { path: { set_id: setId } }, body: { ids } }),
  )
  followSet(set)
  return set
}

export async function startSet(kitId: string, name: string, channel: Channel = 'icons'): Promise<SetView> {
  const set = await taken(
    client.POST('/api/kits/{kit_id}/sets', {
      params: { path: { kit_id: kitId } },
      body: { name, channel, purpose: '' },
    }),
  )
  followSet(set)
  return set
}

/** Asks for a set anew, with what tells of it: after a drop that ended before its last answer. */
export async function askAgain(kitId: string, setId: string): Promise<void> {
  await Promise.all(
    [theSet(setId), theKit(kitId), checked(setId)].map(({ queryKey }) => queryClient.invalidateQueries({ queryKey })),
  )
}

export async function removeSet(set: SetView): Promise<void> {
  await taken(client.DELETE('/api/sets/{set_id}', { params: { path: { set_id: set.id } } }))
  queryClient.removeQueries(theSet(set.id))
  await queryClient.invalidateQueries(theKit(set.kit_id))
}
