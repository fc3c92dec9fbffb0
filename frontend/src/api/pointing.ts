import { keepPreviousData, useQuery } from '@tanstack/vue-query'
import { computed, toValue, type MaybeRefOrGetter } from 'vue'

import { client, taken, type AssetView, type SetView } from './client'
import { theSet } from './sets'
import type { components } from './schema'

type Schemas = components['schemas']

/** What is done to a picture where someone pointed, and what comes of it. */
export function usePointed(set: () => SetView, asset: () => { id: string }) {
  return useQuery({
    queryKey: computed(() => [...theSet(set().id).queryKey, 'pointed', set().history.revision, asset().id]),
    queryFn: () =>
      taken(client.GET('/api/sets/{set_id}/files/{asset_id}/pointed', { params: { path: { set_id: set().id, asset_id: asset().id } } })),
    placeholderData: keepPreviousData,
  })
}

/** A picture that covers all but what belongs to a thing. */
export function thingUrl(asset: string, thing: Schemas['PointedObject'], size: number): string {
  const at = JSON.stringify({ ...thing, color: undefined })
  return `/api/assets/${asset}/thing.png?${new URLSearchParams({ thing: at, size: String(size) })}`
}

/** Where a part of a picture stands in the others of its set: in some of them, from `start` on. */
export function partElsewhere(set: string, asset: string, number: number, start: number): Promise<Schemas['PartsElsewhere']> {
  const path = { set_id: set, asset_id: asset, number }
  return taken(client.GET('/api/sets/{set_id}/files/{asset_id}/parts/{number}/elsewhere', { params: { path, query: { start } } }))
}

/** A picture that covers all but what is taken for a photograph. */
export function photographUrl(asset: string, parts: Schemas['PicturePart'][], size: number): string {
  return `/api/assets/${asset}/photograph.png?${new URLSearchParams({ parts: JSON.stringify({ parts }), size: String(size) })}`
}

/** What stands at a spot of a file; `x` and `y` are parts of its picture, in a look or of a page. */
export function paintAt(setId: string, assetId: string, query: { x: number; y: number; look?: string; page?: number }) {
  return taken(client.GET('/api/sets/{set_id}/files/{asset_id}/at', { params: { path: { set_id: setId, asset_id: assetId }, query } }))
}

/** Where the paints of a deck stand on each of its slides; asked for once one of them is pointed at. */
export function useFrames(asset: MaybeRefOrGetter<AssetView>, paint: MaybeRefOrGetter<string | undefined>) {
  const pointed = computed(() => toValue(paint)?.split('@')[0])
  const { data } = useQuery({
    queryKey: computed(() => ['frames', toValue(asset).id]),
    queryFn: () => taken(client.GET('/api/assets/{asset_id}/frames', { params: { path: { asset_id: toValue(asset).id } } })),
    enabled: computed(() => toValue(asset).can.includes('slides') && !!pointed.value && pointed.value in toValue(asset).paints),
    staleTime: Infinity,
  })
  return (slide: number) => (pointed.value ? data.value?.[slide] : undefined)
}
