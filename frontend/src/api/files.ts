import { useQueries, useQuery } from '@tanstack/vue-query'
import { computed, shallowRef, toValue, watch, type MaybeRefOrGetter, type Ref } from 'vue'

import { client, taken, type AssetView, type FileView, type Order, type SetView } from './client'
import type { components } from './schema'
import { theSet } from './sets'

type Schemas = components['schemas']
type Id = MaybeRefOrGetter<string | undefined>

/** A set as it would be in another kit or edition; nothing is kept. */
export interface Trial {
  kit: string
  edition?: number
}

/** Which files of a set are seen, in which order, on which ground. */
export interface Listing extends Required<Schemas['Which']> {
  order: Order
  trial?: Trial
}

const asked = ({ trial, ...listing }: Listing) => ({ ...listing, ...trial })

/** Whatever is shown of a set's files depends on these; with the set itself it is asked for anew. */
export const filesKey = (set: SetView | undefined) => [...theSet(set?.id).queryKey, 'files', set?.history.revision, set?.files_key]

/** Files that are asked for at once. */
const PAGE = 100

/** Those files of a listing that have come, by their place in it. */
export interface Files {
  of: string
  listing: Listing
  total: number
  at: (place: number) => AssetView | undefined
}

/** Places of files, from the first up to the last: those of tiles that are there, and among them those in view. */
export interface Reach {
  there: readonly [number, number]
  seen: readonly [number, number]
}

/**
 * The files of a set that are in reach, whose pictures are then asked for in a size. Until files of a changed set come,
 * those before are there.
 */
export function useSetFiles(
  set: MaybeRefOrGetter<SetView | undefined>,
  listing: MaybeRefOrGetter<Listing>,
  reach: Ref<Reach>,
  size: MaybeRefOrGetter<number>,
) {
  const first = computed(() => Math.floor(reach.value.there[0] / PAGE))
  const last = computed(() => Math.floor(reach.value.there[1] / PAGE))
  const pages = computed(() => Array.from({ length: last.value - first.value + 1 }, (_, at) => first.value + at))
  const results = useQueries({
    queries: computed(() => {
      const [now, wanted] = [toValue(set), toValue(listing)]
      return pages.value.map((page) => ({
        queryKey: [...filesKey(now), wanted, page],
        queryFn: ({ signal }: { signal: AbortSignal }) =>
          taken(
            client.GET('/api/sets/{set_id}/files', {
              params: {
                path: { set_id: now!.id },
                query: {
                  ...asked(wanted),
                  start: page * PAGE,
                  count: PAGE,
                  // So that pictures are begun before they are asked for one by one.
                  size: toValue(size),
                  seen_from: reach.value.seen[0],
                  seen_to: reach.value.seen[1],
                },
              },
              signal,
            }),
          ),
        enabled: !!now,
        gcTime: 60_000,
      }))
    }),
  })
  interface Come {
    set: string
    listing: Listing
    total: number
    pages: Map<number, AssetView[]>
  }
  const come = shallowRef<Come>()
  watch(
    [results, () => toValue(set)?.id],
    () => {
      const [now, wanted] = [toValue(set), toValue(listing)]
      const fresh = results.value.flatMap(({ data }) => data ?? [])
      if (!now || !fresh.length) return
      const same = come.value?.set === now.id && come.value.listing === wanted
      const held = new Map(same ? come.value!.pages : [])
      for (const page of fresh) held.set(page.start / PAGE, page.files)
      come.value = { set: now.id, listing: wanted, total: fresh[0]!.total, pages: held }
    },
    { immediate: true },
  )
  const files = computed<Files | undefined>(() => {
    const [now, held] = [toValue(set), come.value]
    if (!now || held?.set !== now.id) return undefined
    // A change says itself what the pictures in view are now; what is tried is no change.
    const changed = new Map(held.listing.trial ? [] : now.seen?.map(({ id, fingerprint }) => [id, fingerprint]))
    const made = new Map<string, AssetView>()
    const asItIs = (asset?: AssetView) => {
      const fingerprint = asset && changed.get(asset.id)
      if (!asset || !fingerprint || fingerprint === asset.fingerprint) return asset
      if (!made.has(asset.id)) made.set(asset.id, { ...asset, fingerprint })
      return made.get(asset.id)
    }
    return {
      of: held.set,
      listing: held.listing,
      total: held.total,
      at: (place) =>
        place < held.total ? asItIs(held.pages.get(Math.floor(place / PAGE))?.[place % PAGE]) : undefined,
    }
  })
  const coming = computed(() => results.value.some((one) => one.isFetching))
  const error = computed(() => results.value.find((one) => one.error)?.error)
  return { files, coming, error }
}

/** One file of a set, with where its paints go in it; it follows every change of the set. */
export function useSetFile(set: MaybeRefOrGetter<SetView | undefined>, asset: Id, listing: MaybeRefOrGetter<Listing>) {
  return useQuery(() => ({
    queryKey: [...filesKey(toValue(set)), toValue(listing), 'file', toValue(asset)],
    queryFn: () =>
      taken(
        client.GET('/api/sets/{set_id}/files/{asset_id}', {
          params: {
            path: { set_id: toValue(set)!.id, asset_id: toValue(asset)! },
            query: asked({ ...toValue(listing), trial: undefined }),
          },
        }),
      ),
    enabled: !!toValue(set) && !!toValue(asset),
    placeholderData: (before?: FileView) => (before?.file.id === toValue(asset) ? before : undefined),
  }))
}

/** The text of a file: as it came, or as it becomes in a set. */
export async function sourceOf(assetId: string, query: { of?: string; side?: 'before' }): Promise<string> {
  return String(await taken(client.GET('/api/assets/{asset_id}/file', { params: { path: { asset_id: assetId }, query }, parseAs: 'text' })))
}

/** A picture that moves, as it came or as it is handed over: browsers show how. */
export function playedUrl(asset: { id: string; fingerprint: string }, side: 'before' | 'after', of: string): string {
  return `/api/assets/${asset.id}/file?${new URLSearchParams({ side, of, fingerprint: asset.fingerprint })}`
}

/** Paints of one file for which there are masks. */
export const MOST_MASKS = 48

/** Where each paint of a file stands, below each other; acts may move the drawing, so it is asked for with the set. */
export function masksUrl(asset: { id: string; fingerprint: string; acts: Record<string, unknown> }, size: number, of: string): string {
  const query = new URLSearchParams({ size: String(Math.min(size, 600)) })
  if (Object.values(asset.acts).some(Boolean)) {
    query.set('of', of)
    query.set('fingerprint', asset.fingerprint)
  }
  return `/api/assets/${asset.id}/masks.png?${query}`
}

export interface Picture {
  side?: 'before'
  spot?: string
  size: number
  /** The variant whose plan counts. */
  of?: string
  alternative?: number
  trial?: Trial
  /** One of the drawings in a file that holds several. */
  page?: number
  /** One of the ways in which the file is seen. */
  look?: string
}

/** How large a picture is asked for that is shown with sides of so many pixels. */
export const pixelsFor = (side: number) => (window.devicePixelRatio > 1 ? side * 2 : side)

export function pictureUrl(asset: { id: string; fingerprint: string; came?: string }, options: Picture) {
  const query = new URLSearchParams({ size: String(options.size) })
  if (options.of && !options.side) query.set('of', options.of)
  if (options.alternative !== undefined) query.set('alternative', String(options.alternative))
  if (options.side) query.set('side', options.side)
  const fingerprint = options.side ? asset.came : asset.fingerprint
  if (fingerprint) query.set('fingerprint', fingerprint)
  if (options.spot) query.set('spot', options.spot)
  if (options.trial && !options.side) {
    query.set('kit', options.trial.kit)
    if (options.trial.edition) query.set('edition', String(options.trial.edition))
  }
  if (options.page !== undefined) query.set('page', String(options.page))
  if (options.look) query.set('look', options.look)
  return `/api/assets/${asset.id}/picture.png?${query}`
}
