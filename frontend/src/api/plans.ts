import { keepPreviousData, queryOptions, useMutation, useQuery } from '@tanstack/vue-query'
import { refDebounced } from '@vueuse/core'
import { computed, toValue, type ComputedRef, type MaybeRefOrGetter, type Ref } from 'vue'

import { client, queryClient, taken, type SetView } from './client'
import { filesKey, type Trial } from './files'
import { BEHIND, followSet, planKey, theSet } from './sets'

const path = (set: SetView) => ({ params: { path: { set_id: set.id } } })
const plan = (plan_id: string) => ({ params: { path: { plan_id } } })

/** A set behind the pictures of a change, which are looked at first. */
const behind = <Of extends SetView | undefined>(set: MaybeRefOrGetter<Of>): Ref<Of> =>
  refDebounced(computed(() => toValue(set)) as ComputedRef<Of>, BEHIND)

/** What a set can stand on and be written in, and what is so. */
export function useGroundsAndInks(set: () => SetView, file?: () => string | undefined) {
  return useQuery(() =>
    queryOptions({
      queryKey: [...theSet(set().id).queryKey, 'grounds', set().history.revision, file?.() ?? ''],
      queryFn: () => {
        const params = { ...path(set()).params, query: { file: file?.() } }
        return taken(client.GET('/api/sets/{set_id}/grounds-and-inks', { params }))
      },
      enabled: !file || file() !== undefined,
      placeholderData: keepPreviousData,
    }),
  )
}

export function useTrial(set: MaybeRefOrGetter<SetView | undefined>, trial: MaybeRefOrGetter<Trial | undefined>) {
  return useQuery(() => {
    const [now, wanted] = [toValue(set), toValue(trial)]
    return queryOptions({
      queryKey: ['trial', now?.id, wanted, now?.history.revision],
      queryFn: () => taken(client.GET('/api/sets/{set_id}/trial', { params: { ...path(now!).params, query: wanted! } })),
      enabled: !!now && !!wanted,
    })
  })
}

/** How many files of a set do not stand out from a ground; it follows every change of the set. */
export function useWeak(set: MaybeRefOrGetter<SetView | undefined>, ground: MaybeRefOrGetter<string>) {
  const settled = behind(set)
  const { data } = useQuery(() => {
    const [now, query] = [settled.value, { ground: toValue(ground) }]
    return queryOptions({
      queryKey: [...filesKey(now), 'weak', query],
      queryFn: () => taken(client.GET('/api/sets/{set_id}/weak', { params: { ...path(now!).params, query } })),
      enabled: !!now?.files,
      placeholderData: keepPreviousData,
    })
  })
  return computed(() => data.value?.weak ?? 0)
}

/** The plans that a set could have instead of the one in force. */
export function useAlternatives(set: MaybeRefOrGetter<SetView>, open: MaybeRefOrGetter<boolean>) {
  return useQuery(() => {
    const now = toValue(set)
    return queryOptions({
      queryKey: ['alternatives', now.id, now.history.revision],
      queryFn: () => taken(client.GET('/api/sets/{set_id}/alternatives', path(now))),
      enabled: toValue(open),
    })
  })
}

/** What in the plan deserves a look, on a ground. */
export function useDoubts(set: MaybeRefOrGetter<SetView>, ground: MaybeRefOrGetter<string>) {
  const settled = behind(set)
  return useQuery(() => {
    const [now, query] = [settled.value, { ground: toValue(ground) }]
    return queryOptions({
      queryKey: ['doubts', ...planKey(now), query],
      queryFn: () => taken(client.GET('/api/sets/{set_id}/doubts', { params: { ...path(now).params, query } })),
      placeholderData: keepPreviousData,
    })
  })
}

/** Where a paint stands in the source of a file. */
export function usePlaces(set: MaybeRefOrGetter<SetView>, asset: () => string, paint: () => string) {
  return useQuery(() => {
    const now = toValue(set)
    const params = { path: { set_id: now.id, asset_id: asset() }, query: { paint: paint() } }
    return queryOptions({
      queryKey: ['places', ...planKey(now), asset(), paint()],
      queryFn: () => taken(client.GET('/api/sets/{set_id}/files/{asset_id}/places', { params })),
      placeholderData: keepPreviousData,
    })
  })
}

/** What planning anew would change, while that is asked. */
export function usePlanAnew(set: MaybeRefOrGetter<SetView>, asked: Ref<boolean>) {
  return useQuery(() => {
    const now = toValue(set)
    return queryOptions({
      queryKey: ['anew', ...planKey(now)],
      queryFn: () => taken(client.GET('/api/sets/{set_id}/plan/anew', path(now))),
      enabled: asked.value,
    })
  })
}

/** The plans saved for a set's kit, with how much of the set they know. */
export function usePlans(set: MaybeRefOrGetter<SetView>) {
  return useQuery(() => {
    const now = toValue(set)
    return queryOptions({
      queryKey: ['plans', now.id, now.paints.length],
      queryFn: () => taken(client.GET('/api/sets/{set_id}/plans', path(now))),
    })
  })
}

export function usePlanSaving() {
  const again = () => queryClient.invalidateQueries({ queryKey: ['plans'] })
  return {
    save: useMutation({
      mutationFn: (input: { set: SetView; name: string }) =>
        taken(client.POST('/api/sets/{set_id}/plans', { ...path(input.set), body: { name: input.name } })),
      onSuccess: again,
    }),
    use: useMutation({
      mutationFn: (input: { id: string; sets: string[] }) =>
        taken(client.POST('/api/plans/{plan_id}/use', { ...plan(input.id), body: { sets: input.sets } })),
      onSuccess: (changed) => changed.forEach(followSet),
    }),
    forget: useMutation({
      mutationFn: (input: { id: string; set: SetView }) =>
        taken(client.DELETE('/api/plans/{plan_id}', plan(input.id))),
      onSuccess: again,
    }),
  }
}
