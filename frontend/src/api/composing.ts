import { useMutation, useQuery } from '@tanstack/vue-query'
import { computed, toValue, type MaybeRefOrGetter } from 'vue'

import { client, taken, type KitView, type SchemeAsked } from './client'
import { followKit } from './kits'
import type { components, paths } from './schema'

type Schemas = components['schemas']
type Id = MaybeRefOrGetter<string>
type Kit = MaybeRefOrGetter<KitView>

/** What is computed from a kit as it stands; asked for again when the kit changes, and not before it is `wanted`. */
export function ofKit<T>(
  name: string,
  kit: Kit,
  ask: (kit_id: string) => Promise<T>,
  more: () => unknown = () => '',
  wanted: MaybeRefOrGetter<boolean> = true,
) {
  return useQuery({
    enabled: () => toValue(wanted),
    queryKey: computed(() => [name, toValue(kit).id, toValue(kit).history.revision, more()]),
    queryFn: () => ask(toValue(kit).id),
    placeholderData: (last: T | undefined) => last as never,
  })
}

type ShelfSearch = NonNullable<paths['/api/shelf']['get']['parameters']['query']>

export function useShelf(search: MaybeRefOrGetter<ShelfSearch>) {
  return useQuery({
    queryKey: computed(() => ['shelf', toValue(search)]),
    queryFn: () => taken(client.GET('/api/shelf', { params: { query: toValue(search) } })),
    placeholderData: (last: Schemas['ShelfView'] | undefined) => last,
  })
}

/** Colors around one: lighter, softer, warmer and their opposites, by a few steps. */
export function useVariations(hex: MaybeRefOrGetter<string>) {
  return useQuery(() => ({
    queryKey: ['variations', toValue(hex)],
    queryFn: () => taken(client.GET('/api/variations', { params: { query: { code: toValue(hex) } } })),
    staleTime: Infinity,
  }))
}

export function useRules() {
  return useQuery({ queryKey: ['rules'], queryFn: () => taken(client.GET('/api/rules')), staleTime: Infinity })
}

export function askScheme(kitId: string, asked: SchemeAsked, signal: AbortSignal) {
  return taken(client.POST('/api/scheme', { params: { query: { kit_id: kitId } }, body: asked, signal }))
}

export function useFamilies(kit: Kit) {
  return ofKit('families', kit, (kit_id) => taken(client.GET('/api/kits/{kit_id}/families', { params: { path: { kit_id } } })))
}

export function useSameTone(kit: Kit, key: MaybeRefOrGetter<string>) {
  return ofKit(
    'tones',
    kit,
    (kit_id) =>
      taken(
        client.GET('/api/kits/{kit_id}/colors/{key}/same-tone', { params: { path: { kit_id, key: toValue(key) } } }),
      ),
    () => toValue(key),
  )
}

export function useThemes() {
  return useQuery({ queryKey: ['themes'], queryFn: () => taken(client.GET('/api/themes')), staleTime: Infinity })
}

export function useSuggestedNames(kit: Kit, theme: MaybeRefOrGetter<string>) {
  return ofKit(
    'names',
    kit,
    (kit_id) =>
      taken(
        client.GET('/api/kits/{kit_id}/names', { params: { path: { kit_id }, query: { theme: toValue(theme) } } }),
      ),
    () => toValue(theme),
  )
}

export function useReading(code: MaybeRefOrGetter<string>) {
  return useQuery({
    queryKey: computed(() => ['reading', toValue(code)]),
    queryFn: () => taken(client.GET('/api/readings', { params: { query: { code: toValue(code) } } })),
  })
}

export interface Roles {
  large?: string | undefined
  middle?: string | undefined
  small?: string | undefined
  shares?: number[] | undefined
}

export function useProportions(kit: Kit, roles: MaybeRefOrGetter<Roles>) {
  return ofKit(
    'proportions',
    kit,
    (kit_id) =>
      taken(client.GET('/api/kits/{kit_id}/proportions', { params: { path: { kit_id }, query: toValue(roles) } })),
    () => toValue(roles),
  )
}

export function askProposals(kitId: string, wish: Schemas['Wish']) {
  return taken(client.POST('/api/kits/{kit_id}/proposals', { params: { path: { kit_id: kitId } }, body: wish }))
}

export function askPreview(kitId: string, key: string, code: string) {
  return taken(
    client.POST('/api/kits/{kit_id}/colors/{key}/preview', {
      params: { path: { kit_id: kitId, key } },
      body: { code },
    }),
  )
}

/** The changes of a kit that composing makes; those of single colors are in `useKitChanges`. */
export function useComposing(id: Id) {
  const path = () => ({ kit_id: toValue(id) })
  const change = <T>(send: (input: T) => Promise<KitView>) => useMutation({ mutationFn: send, onSuccess: followKit })
  return {
    duplicate: change((key: string) =>
      taken(client.POST('/api/kits/{kit_id}/colors/{key}/duplicate', { params: { path: { ...path(), key } } })),
    ),
    order: change((colors: string[]) =>
      taken(client.PUT('/api/kits/{kit_id}/order', { params: { path: path() }, body: { keys: colors } })),
    ),
    tint: change((body: Schemas['NewTints']) =>
      taken(client.POST('/api/kits/{kit_id}/tinted', { params: { path: path() }, body })),
    ),
    names: change((names: Record<string, string>) =>
      taken(client.POST('/api/kits/{kit_id}/names', { params: { path: path() }, body: { names } })),
    ),
    pull: change((body: Schemas['Pull']) =>
      taken(client.POST('/api/kits/{kit_id}/families', { params: { path: path() }, body })),
    ),
    take: change((body: Schemas['Taking']) =>
      taken(client.POST('/api/kits/{kit_id}/proposals/take', { params: { path: path() }, body })),
    ),
    rename: change((name: string) =>
      taken(client.PATCH('/api/kits/{kit_id}', { params: { path: path() }, body: { name } })),
    ),
  }
}
