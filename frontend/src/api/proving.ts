import { queryOptions, useMutation, useQuery } from '@tanstack/vue-query'
import { toValue, type MaybeRefOrGetter } from 'vue'

import { client, form, queryClient, taken, type KitView, type SeeThrough, type Status, type Use, type Vision } from './client'
import { ofKit } from './composing'
import { followKit } from './kits'
import type { components } from './schema'

type Schemas = components['schemas']
type Kit = MaybeRefOrGetter<KitView>

const path = (kit_id: string) => ({ params: { path: { kit_id } } })

export function usePairs(kit: Kit, vision: MaybeRefOrGetter<Vision>, severity: MaybeRefOrGetter<number>) {
  return ofKit(
    'pairs',
    kit,
    (kit_id) =>
      taken(
        client.GET('/api/kits/{kit_id}/pairs', {
          params: { path: { kit_id }, query: { vision: toValue(vision), severity: toValue(severity) } },
        }),
      ),
    () => [toValue(vision), toValue(severity)],
  )
}

export function useDiagnosis(kit: Kit) {
  return ofKit('diagnosis', kit, (id) => taken(client.GET('/api/kits/{kit_id}/diagnosis', path(id))))
}

export function useTrios(kit: Kit) {
  return ofKit('trios', kit, (id) => taken(client.GET('/api/kits/{kit_id}/trios', path(id))))
}

export function useVision(kit: Kit, severity: MaybeRefOrGetter<number>) {
  return ofKit(
    'vision',
    kit,
    (kit_id) =>
      taken(
        client.GET('/api/kits/{kit_id}/vision', {
          params: { path: { kit_id }, query: { severity: toValue(severity) } },
        }),
      ),
    () => toValue(severity),
  )
}

export function useUsageRules(kit: Kit) {
  return ofKit('usage', kit, (id) => taken(client.GET('/api/kits/{kit_id}/rules', path(id))))
}

export function useSeeThrough(kit: Kit) {
  return ofKit('see-through', kit, (id) => taken(client.GET('/api/kits/{kit_id}/see-through', path(id))))
}

export function useStates(kit: Kit) {
  return ofKit('states', kit, (id) => taken(client.GET('/api/kits/{kit_id}/states', path(id))))
}

export function useLogo(kit: Kit) {
  return ofKit('logo', kit, (id) => taken(client.GET('/api/kits/{kit_id}/logo', path(id))))
}

export function useNudges(
  kit: Kit,
  text: MaybeRefOrGetter<string>,
  ground: MaybeRefOrGetter<string>,
  use: MaybeRefOrGetter<Use>,
  wanted: MaybeRefOrGetter<boolean>,
) {
  return ofKit(
    'nudges',
    kit,
    (kit_id) =>
      taken(
        client.GET('/api/kits/{kit_id}/nudges', {
          params: { path: { kit_id }, query: { text: toValue(text), ground: toValue(ground), use: toValue(use) } },
        }),
      ),
    () => [toValue(text), toValue(ground), toValue(use)],
    wanted,
  )
}

export function previewSeeThrough(kitId: string, body: SeeThrough, signal: AbortSignal) {
  return taken(client.POST('/api/kits/{kit_id}/see-through/preview', { ...path(kitId), body, signal }))
}

export function useEditions(kit: Kit) {
  return ofKit('editions', kit, (id) => taken(client.GET('/api/kits/{kit_id}/editions', path(id))), () => toValue(kit).edition)
}

export function usePublishing(kit: Kit) {
  return ofKit('publishing', kit, (id) => taken(client.GET('/api/kits/{kit_id}/publish', path(id))), () => toValue(kit).edition)
}

export function useCompare(kit: Kit, old: MaybeRefOrGetter<number>, now: MaybeRefOrGetter<number>) {
  return ofKit(
    'compare',
    kit,
    (kit_id) =>
      taken(
        client.GET('/api/kits/{kit_id}/compare', {
          params: { path: { kit_id }, query: { old: toValue(old), new: toValue(now) } },
        }),
      ),
    () => [toValue(old), toValue(now)],
  )
}

export function useRecords(kit: Kit) {
  return ofKit('records', kit, (id) => taken(client.GET('/api/kits/{kit_id}/records', path(id))), () => toValue(kit).record)
}

const commentsOn = (kitId: string) =>
  queryOptions({
    queryKey: ['comments', kitId],
    queryFn: () => taken(client.GET('/api/kits/{kit_id}/comments', path(kitId))),
    staleTime: 0,
  })

export const useComments = (kitId: MaybeRefOrGetter<string>, wanted: MaybeRefOrGetter<boolean> = true) =>
  useQuery(() => ({ ...commentsOn(toValue(kitId)), enabled: toValue(wanted) }))

export async function comment(kitId: string, about: string, text: string): Promise<void> {
  await taken(client.POST('/api/kits/{kit_id}/comments', { ...path(kitId), body: { about, text } }))
  await queryClient.invalidateQueries(commentsOn(kitId))
}

export function useChoices(kitId: MaybeRefOrGetter<string>) {
  return useQuery({
    queryKey: ['hand-over choices'],
    queryFn: () => taken(client.GET('/api/kits/{kit_id}/hand-over', path(toValue(kitId)))),
    staleTime: Infinity,
  })
}

const linksOf = (kitId: string) =>
  queryOptions({ queryKey: ['links', kitId], queryFn: () => taken(client.GET('/api/kits/{kit_id}/links', path(kitId))) })

export const useLinks = (kitId: MaybeRefOrGetter<string>, mayLook: MaybeRefOrGetter<boolean>) =>
  useQuery(() => ({ ...linksOf(toValue(kitId)), enabled: toValue(mayLook) }))

/** The changes of a kit that proving makes. */
export function useProving(id: MaybeRefOrGetter<string>) {
  const at = () => path(toValue(id))
  const change = <T>(send: (input: T) => Promise<KitView>) => useMutation({ mutationFn: send, onSuccess: followKit })
  return {
    steps: change((steps: string[]) => taken(client.PUT('/api/kits/{kit_id}/steps', { ...at(), body: { steps } }))),
    decide: change((body: { pairs: Schemas['PairSent'][]; status: Status; use?: Use; note?: string }) =>
      taken(client.POST('/api/kits/{kit_id}/decisions', { ...at(), body: { note: '', ...body } })),
    ),
    nudge: change((body: Schemas['NudgeSent']) =>
      taken(client.POST('/api/kits/{kit_id}/nudges', { ...at(), body })),
    ),
    decideTrios: change((body: { trios: Schemas['TrioSent'][]; status: Status }) =>
      taken(client.POST('/api/kits/{kit_id}/trios', { ...at(), body: { note: '', ...body } })),
    ),
    rules: change((body: Schemas['Rules']) => taken(client.PUT('/api/kits/{kit_id}/rules', { ...at(), body }))),
    seeThrough: change((settings: SeeThrough[]) =>
      taken(client.PUT('/api/kits/{kit_id}/see-through', { ...at(), body: { settings } })),
    ),
    states: change((body: Schemas['Distances']) => taken(client.PUT('/api/kits/{kit_id}/states', { ...at(), body }))),
    samples: change((body: Schemas['SamplesSent']) =>
      taken(client.PUT('/api/kits/{kit_id}/samples', { ...at(), body })),
    ),
    logo: change((body: Partial<Schemas['LogoSent']>) =>
      taken(client.PATCH('/api/kits/{kit_id}/logo', { ...at(), body: { no_backing: false, ...body } })),
    ),
    bringLogo: change(({ ground, file }: { ground: 'light' | 'dark'; file: File }) => {
      const body = new FormData()
      body.append('file', file)
      return taken(
        client.POST('/api/kits/{kit_id}/logo/{ground}', {
          params: { path: { kit_id: toValue(id), ground } },
          ...form<{ file: string }>(body),
        }),
      )
    }),
    freeLogo: change(({ ground, inside }: { ground: 'light' | 'dark'; inside: boolean }) =>
      taken(
        client.POST('/api/kits/{kit_id}/logo/{ground}/freed', {
          params: { path: { kit_id: toValue(id), ground } },
          body: { inside },
        }),
      ),
    ),
    pictureAsLogo: change(({ source, picture }: { source: string; picture: string }) =>
      taken(
        client.POST('/api/sources/{source_id}/pictures/{picture_id}/logo', {
          params: { path: { source_id: source, picture_id: picture } },
        }),
      ),
    ),
    removeLogo: change((ground: 'light' | 'dark') =>
      taken(
        client.DELETE('/api/kits/{kit_id}/logo/{ground}', { params: { path: { kit_id: toValue(id), ground } } }),
      ),
    ),
    restore: change((number: number) =>
      taken(
        client.POST('/api/kits/{kit_id}/editions/{number}/restore', {
          params: { path: { kit_id: toValue(id), number } },
        }),
      ),
    ),
  }
}

/** Publishes, and asks for the kit again: what it says of its editions has changed. */
export async function publish(kitId: string, note: string) {
  const made = await taken(client.POST('/api/kits/{kit_id}/editions', { ...path(kitId), body: { note } }))
  followKit(await taken(client.GET('/api/kits/{kit_id}', path(kitId))))
  return made
}

export async function makeLink(kitId: string, number: number, days: number, sets: string[]) {
  const made = await taken(
    client.POST('/api/kits/{kit_id}/editions/{number}/links', {
      params: { path: { kit_id: kitId, number } },
      body: { days, sets },
    }),
  )
  await queryClient.invalidateQueries(linksOf(kitId))
  return made
}

export async function revokeLink(kitId: string, link_id: string): Promise<void> {
  await taken(client.DELETE('/api/kits/{kit_id}/links/{link_id}', { params: { path: { kit_id: kitId, link_id } } }))
  await queryClient.invalidateQueries(linksOf(kitId))
}
