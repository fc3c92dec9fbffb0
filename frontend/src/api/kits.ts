import { queryOptions, useMutation, useQuery } from '@tanstack/vue-query'
import { toValue, type MaybeRefOrGetter } from 'vue'

import { client, queryClient, sawKit, taken, type KitView } from './client'
import type { components } from './schema'

type Schemas = components['schemas']
type Id = MaybeRefOrGetter<string | undefined>

export const allKits = queryOptions({ queryKey: ['kits'], queryFn: () => taken(client.GET('/api/kits')) })

export const theKit = (id = '') =>
  queryOptions({
    queryKey: ['kit', id],
    queryFn: async () => {
      const kit = await taken(client.GET('/api/kits/{kit_id}', { params: { path: { kit_id: id } } }))
      sawKit(kit)
      return kit
    },
    enabled: !!id,
  })

export const useKits = () => useQuery(allKits)

export const useKit = (id: Id) => useQuery(() => theKit(toValue(id)))

/** Puts a changed kit in the place of the old one; sets and lists are asked for again, since they follow it. */
export function followKit(kit: KitView): void {
  sawKit(kit)
  queryClient.setQueryData(theKit(kit.id).queryKey, kit)
  void queryClient.invalidateQueries({ queryKey: ['set'] })
  void queryClient.invalidateQueries(allKits)
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

export function isItOurs(kitId: string, text: string) {
  return taken(client.POST('/api/kits/{kit_id}/ours', { params: { path: { kit_id: kitId } }, body: { text } }))
}

export function readCodes(text: string, kitId: string | undefined, signal: AbortSignal) {
  return taken(
    client.POST('/api/codes', { params: { query: { kit_id: kitId } }, body: { text }, signal }),
  )
}
