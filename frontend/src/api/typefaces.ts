import { keepPreviousData, useQuery } from '@tanstack/vue-query'
import { computed, toValue, watch, type MaybeRefOrGetter } from 'vue'

import { client, form, taken, type KitView } from './client'
import { followKit } from './kits'
import type { components } from './schema'

type Schemas = components['schemas']

/** Names of families whose files the browser knows; it fetches those that are used. */
const known = new Set<string>()

function know(family: string, files: readonly { url: string; letters?: string }[], weights: readonly number[]): void {
  const [least, most] = weights
  for (const file of files) {
    if (known.has(file.url)) continue
    known.add(file.url)
    const weight = least === most ? `${least}` : `${least} ${most}`
    document.fonts.add(new FontFace(family, `url(${file.url})`, { weight, ...(file.letters ? { unicodeRange: file.letters } : {}) }))
  }
}

/** The typefaces that ship, made known to the browser. */
export function useShippedFaces() {
  const shipped = useQuery({
    queryKey: ['typefaces'],
    queryFn: () => taken(client.GET('/api/typefaces')),
    staleTime: Infinity,
  })
  watch(shipped.data, (faces) => faces?.forEach((face) => know(face.family, face.files, face.weights)), { immediate: true })
  return shipped
}

/** The typefaces of a kit; those that were brought along are made known to the browser too. */
export function useType(kit: MaybeRefOrGetter<KitView>) {
  useShippedFaces()
  const id = computed(() => toValue(kit).id)
  const type = useQuery({
    queryKey: computed(() => ['type', id.value, toValue(kit).history.revision]),
    queryFn: () => taken(client.GET('/api/kits/{kit_id}/type', { params: { path: { kit_id: id.value } } })),
    placeholderData: keepPreviousData,
  })
  watch(
    type.data,
    (now) => now?.own.forEach((face) => know(face.family, [{ url: `/api/kits/${id.value}/typefaces/${face.key}` }], face.weights)),
    { immediate: true },
  )
  return type
}

export async function bringTypeface(kitId: string, file: File, license: string): Promise<void> {
  const body = new FormData()
  body.append('file', file)
  body.append('license', license)
  followKit(
    await taken(
      client.POST('/api/kits/{kit_id}/typefaces', {
        params: { path: { kit_id: kitId } },
        ...form<{ file: string; license: string }>(body),
      }),
    ),
  )
}

export async function removeTypeface(kitId: string, key: string): Promise<void> {
  followKit(await taken(client.DELETE('/api/kits/{kit_id}/typefaces/{key}', { params: { path: { kit_id: kitId, key } } })))
}

export async function setType(kitId: string, body: Schemas['TypeSent']): Promise<void> {
  followKit(await taken(client.PUT('/api/kits/{kit_id}/type', { params: { path: { kit_id: kitId } }, body })))
}
