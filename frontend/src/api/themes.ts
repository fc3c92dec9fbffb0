import { keepPreviousData, useQuery } from '@tanstack/vue-query'
import { computed, type Ref } from 'vue'

import { client, taken, type SetView } from './client'
import { followKit } from './kits'
import { theSet } from './sets'

/** Where the places of the themes of a set of decks go. */
export function useTheme(set: () => SetView, theme: Ref<string>) {
  return useQuery({
    queryKey: computed(() => [...theSet(set().id).queryKey, 'theme', theme.value, set().history.revision, set().files_key]),
    queryFn: () =>
      taken(client.GET('/api/sets/{set_id}/theme', { params: { path: { set_id: set().id }, query: { theme: theme.value } } })),
    placeholderData: keepPreviousData,
  })
}

/** What follows the themes of a set of decks after its plan, and what does not; read while it is looked at. */
export function useLinksOfSet(set: () => SetView, open: Ref<boolean>) {
  return useQuery({
    queryKey: computed(() => [...theSet(set().id).queryKey, 'links', set().history.revision, set().files_key]),
    queryFn: () => taken(client.GET('/api/sets/{set_id}/links', { params: { path: { set_id: set().id } } })),
    enabled: open,
    placeholderData: keepPreviousData,
  })
}

/** Makes the places of a set the kit's own theme, or takes that from the kit. */
export async function keepTheme(set: SetView, kept: boolean): Promise<void> {
  const sent = { params: { path: { set_id: set.id } }, body: { kept } }
  followKit(await taken(client.PUT('/api/sets/{set_id}/theme/of-kit', sent)))
}
