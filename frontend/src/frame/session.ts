import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'

import { client, ProblemError, queryClient, taken, type Person } from '@/api/client'

const KEY = ['me']

/** Who is signed in; null: nobody. Asked again now and then, which also renews the session. */
export function useMe() {
  const { data, error } = useQuery({
    queryKey: KEY,
    queryFn: async (): Promise<Person | null> => {
      try {
        return await taken(client.GET('/api/session'))
      } catch (problem) {
        if (problem instanceof ProblemError && problem.status === 401) return null
        throw problem
      }
    },
    staleTime: Infinity,
    refetchInterval: 10 * 60_000,
  })
  return {
    me: data,
    error,
    /** Whether one may change the kit, and whether one may decide on pairs. */
    mayChange: computed(() => data.value?.role === 'coordinator'),
    mayDecide: computed(() => data.value?.role !== 'reader'),
  }
}

export async function signIn(email: string, password: string): Promise<void> {
  const me = await taken(client.POST('/api/session', { body: { email, password } }))
  queryClient.setQueryData(KEY, me)
}

export async function signOut(): Promise<void> {
  await taken(client.DELETE('/api/session'))
  queryClient.setQueryData(KEY, null)
  queryClient.removeQueries({ predicate: (query) => query.queryKey[0] !== KEY[0] })
}

export async function changePassword(old: string, password: string): Promise<void> {
  const me = await taken(client.PUT('/api/session/password', { body: { old, password } }))
  queryClient.setQueryData(KEY, me)
}
