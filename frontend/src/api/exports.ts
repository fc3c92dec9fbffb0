import { queryOptions, useMutation, useQuery } from '@tanstack/vue-query'
import { toValue, type MaybeRefOrGetter } from 'vue'

import { client, queryClient, taken, type ExportView } from './client'
import type { components } from './schema'

export type Wanted = components['schemas']['Export-Input']

export const isOpen = (one: ExportView) => one.state === 'waiting' || one.state === 'running'

/** The exports of a set; while one is open it is asked for again and again, so that its progress is seen. */
const exportsOf = (setId = '') =>
  queryOptions({
    queryKey: ['exports', setId],
    queryFn: () => taken(client.GET('/api/sets/{set_id}/exports', { params: { path: { set_id: setId } } })),
    enabled: !!setId,
    refetchInterval: (query) => (query.state.data?.exports.some(isOpen) ? 700 : false),
  })

export const useExports = (setId: MaybeRefOrGetter<string | undefined>) => useQuery(() => exportsOf(toValue(setId)))

export function useExporting(setId: MaybeRefOrGetter<string | undefined>) {
  const follow = () => queryClient.invalidateQueries(exportsOf(toValue(setId)))
  return {
    order: useMutation({
      mutationFn: (body: Wanted) =>
        taken(client.POST('/api/sets/{set_id}/exports', { params: { path: { set_id: toValue(setId)! } }, body })),
      onSuccess: follow,
    }),
    cancel: useMutation({
      mutationFn: (id: string) =>
        taken(client.POST('/api/exports/{export_id}/cancel', { params: { path: { export_id: id } } })),
      onSettled: follow,
    }),
  }
}
