import { useMutation, useQuery } from '@tanstack/vue-query'
import { computed, toValue, type MaybeRefOrGetter } from 'vue'

import { client, queryClient, taken, type ColorView, type KitView, type SetView } from './client'
import type { components } from './schema'

type Schemas = components['schemas']
type Id = MaybeRefOrGetter<string | undefined>

const keys = {
  kits: ['kits'] as const,
  kit: (id: string) => ['kit', id] as const,
  pairs: (id: string, revision: number) => ['pairs', id, revision] as const,
  set: (id: string) => ['set', id] as const,
  check: (id: string) => ['check', id] as const,
}

export function useKits() {
  return useQuery({ queryKey: keys.kits, queryFn: () => taken(client.GET('/api/kits')) })
}

export function useKit(id: Id) {
  return useQuery({
    queryKey: computed(() => keys.kit(toValue(id) ?? '')),
    queryFn: () => taken(client.GET('/api/kits/{kit_id}', { params: { path: { kit_id: toValue(id)! } } })),
    enabled: computed(() => !!toValue(id)),
  })
}

export function usePairs(kit: MaybeRefOrGetter<KitView | undefined>) {
  return useQuery({
    queryKey: computed(() => keys.pairs(toValue(kit)?.id ?? '', toValue(kit)?.history.revision ?? -1)),
    queryFn: () => taken(client.GET('/api/kits/{kit_id}/pairs', { params: { path: { kit_id: toValue(kit)!.id } } })),
    enabled: computed(() => !!toValue(kit)),
    staleTime: 0,
  })
}

export function useVariations(kitId: MaybeRefOrGetter<string>, color: MaybeRefOrGetter<ColorView>) {
  return useQuery({
    queryKey: computed(() => ['variations', toValue(kitId), toValue(color).key, toValue(color).hex]),
    queryFn: () =>
      taken(
        client.GET('/api/kits/{kit_id}/colors/{key}/variations', {
          params: { path: { kit_id: toValue(kitId), key: toValue(color).key } },
        }),
      ),
  })
}

export function useSet(id: Id) {
  return useQuery({
    queryKey: computed(() => keys.set(toValue(id) ?? '')),
    queryFn: () => taken(client.GET('/api/sets/{set_id}', { params: { path: { set_id: toValue(id)! } } })),
    enabled: computed(() => !!toValue(id)),
  })
}

export function useCheck(id: Id) {
  return useQuery({
    queryKey: computed(() => keys.check(toValue(id) ?? '')),
    queryFn: () => taken(client.GET('/api/sets/{set_id}/check', { params: { path: { set_id: toValue(id)! } } })),
    enabled: computed(() => !!toValue(id)),
    staleTime: 0,
  })
}

export function usePackage(id: Id) {
  return useQuery({
    queryKey: computed(() => ['package', toValue(id) ?? '']),
    queryFn: () => taken(client.GET('/api/sets/{set_id}/package', { params: { path: { set_id: toValue(id)! } } })),
    enabled: computed(() => !!toValue(id)),
    staleTime: 0,
  })
}

/** Puts a changed kit in the place of the old one; sets and lists are asked for again, since they follow it. */
function followKit(kit: KitView): void {
  queryClient.setQueryData(keys.kit(kit.id), kit)
  void queryClient.invalidateQueries({ queryKey: ['set'] })
  void queryClient.invalidateQueries({ queryKey: keys.kits })
}

/** Puts a changed set in the place of the old one; the kit's stages tell of it. */
export function followSet(set: SetView): void {
  queryClient.setQueryData(keys.set(set.id), set)
  void queryClient.invalidateQueries({ queryKey: keys.kit(set.kit_id) })
  void queryClient.invalidateQueries({ queryKey: keys.check(set.id) })
}

export function useStartKit() {
  return useMutation({
    mutationFn: (body: Schemas['NewKit']) => taken(client.POST('/api/kits', { body })),
    onSuccess: followKit,
  })
}

/** Every change of one kit. */
export function useKitChanges(id: Id) {
  const path = () => ({ kit_id: toValue(id)! })
  const change = <T>(send: (input: T) => Promise<KitView>) => useMutation({ mutationFn: send, onSuccess: followKit })
  return {
    add: change((colors: Schemas['NewColor'][]) =>
      taken(client.POST('/api/kits/{kit_id}/colors', { params: { path: path() }, body: { colors } })),
    ),
    color: change((input: { key: string } & Schemas['ColorChange']) => {
      const { key, ...body } = input
      return taken(
        client.PATCH('/api/kits/{kit_id}/colors/{key}', { params: { path: { ...path(), key } }, body }),
      )
    }),
    remove: change((key: string) =>
      taken(client.DELETE('/api/kits/{kit_id}/colors/{key}', { params: { path: { ...path(), key } } })),
    ),
    undo: change(() => taken(client.POST('/api/kits/{kit_id}/undo', { params: { path: path() } }))),
    redo: change(() => taken(client.POST('/api/kits/{kit_id}/redo', { params: { path: path() } }))),
  }
}

/** Every change of one set. */
export function useSetChanges(id: Id) {
  const path = () => ({ set_id: toValue(id)! })
  const change = <T>(send: (input: T) => Promise<SetView>) => useMutation({ mutationFn: send, onSuccess: followSet })
  return {
    aim: change((body: Schemas['Aim']) =>
      taken(client.POST('/api/sets/{set_id}/aim', { params: { path: path() }, body })),
    ),
    planAnew: change(() => taken(client.POST('/api/sets/{set_id}/plan', { params: { path: path() } }))),
    removeFile: change((asset: string) =>
      taken(client.DELETE('/api/assets/{asset_id}', { params: { path: { asset_id: asset } } })),
    ),
    undo: change(() => taken(client.POST('/api/sets/{set_id}/undo', { params: { path: path() } }))),
    redo: change(() => taken(client.POST('/api/sets/{set_id}/redo', { params: { path: path() } }))),
  }
}

export async function startSet(kitId: string, name: string): Promise<SetView> {
  const set = await taken(
    client.POST('/api/kits/{kit_id}/sets', { params: { path: { kit_id: kitId } }, body: { name } }),
  )
  followSet(set)
  return set
}

export async function removeSet(set: SetView): Promise<void> {
  await taken(client.DELETE('/api/sets/{set_id}', { params: { path: { set_id: set.id } } }))
  queryClient.removeQueries({ queryKey: keys.set(set.id) })
  await queryClient.invalidateQueries({ queryKey: keys.kit(set.kit_id) })
}

export function isItOurs(kitId: string, text: string) {
  return taken(client.POST('/api/kits/{kit_id}/ours', { params: { path: { kit_id: kitId } }, body: { text } }))
}

export function readCodes(text: string, kitId: string | undefined, signal: AbortSignal) {
  return taken(
    client.POST('/api/codes', { params: { query: { kit_id: kitId } }, body: { text }, signal }),
  )
}

export function pictureUrl(asset: { id: string; look: string }, options: { side?: 'before'; spot?: string; size: number }) {
  const query = new URLSearchParams({ size: String(options.size) })
  if (options.side) query.set('side', options.side)
  else query.set('look', asset.look)
  if (options.spot) query.set('spot', options.spot)
  return `/api/assets/${asset.id}/picture.png?${query}`
}
