/** Requests for the pictures inside of the files of a set. */
import { keepPreviousData, useMutation, useQuery } from '@tanstack/vue-query'
import { computed, toValue, type MaybeRefOrGetter } from 'vue'

import { client, queryClient, taken, type SetView } from './client'
import { planKey, theSet } from './sets'
import type { components } from './schema'

/** The pictures inside of the files of a set: with a ground of their own, or colors that go by its plan. */
export function usePicturesInside(set: MaybeRefOrGetter<SetView>) {
  return useQuery({
    queryKey: computed(() => ['pictures', ...planKey(toValue(set))]),
    queryFn: () => taken(client.GET('/api/sets/{set_id}/pictures', { params: { path: { set_id: toValue(set).id } } })),
    placeholderData: keepPreviousData,
  })
}

/** Brings in pictures of a set that lie at some places on the web. */
export function useFetchedPictures(id: () => string) {
  return useMutation({
    mutationFn: (hosts: string[]) =>
      taken(client.POST('/api/sets/{set_id}/pictures/fetch', { params: { path: { set_id: id() } }, body: { hosts } })),
    onSuccess: () => Promise.all([theSet(id()).queryKey, ['pictures']].map((queryKey) => queryClient.invalidateQueries({ queryKey }))),
  })
}

/** Where such a picture is seen as it becomes. */
export function besideUrl(one: components['schemas']['InsideView'], of: string): string {
  const { asset, reference, fingerprint } = one
  return `/api/assets/${asset}/beside.png?${new URLSearchParams({ reference, of, fingerprint })}`
}
