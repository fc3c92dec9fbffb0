import { useQuery } from '@tanstack/vue-query'
import { computed, type ComputedRef } from 'vue'

import { client, taken } from './client'
import type { components } from './schema'

type Schemas = components['schemas']
export type Can = Schemas['Can']

/** The formats of sets; they are what they are until the application is another one. */
export function useFormats() {
  return useQuery({ queryKey: ['formats'], queryFn: () => taken(client.GET('/api/formats')), staleTime: Infinity })
}

/** What a file picker offers where files come in. */
export function useAccept(intake: Schemas['Intake']): ComputedRef<string> {
  const { data } = useFormats()
  return computed(() => data.value?.accepts[intake]?.join(',') ?? '')
}
