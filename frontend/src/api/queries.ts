import { useMutation, useQueries, useQuery } from '@tanstack/vue-query'
import { refDebounced } from '@vueuse/core'
import { computed, shallowRef, toValue, watch, type MaybeRefOrGetter, type Ref } from 'vue'

import { client, lookAgain, queryClient, sawKit, taken, type AssetView, type KitView, type Order, type SetView } from './client'
import type { components } from './schema'

type Schemas = components['schemas']
type Id = MaybeRefOrGetter<string | undefined>

export const keys = {
  kits: ['kits'] as const,
  kit: (id: string) => ['kit', id] as const,
  set: (id: string) => ['set', id] as const,
  check: (id: string) => ['check', id] as const,
}

export function useKits() {
  return useQuery({ queryKey: keys.kits, queryFn: () => taken(client.GET('/api/kits')) })
}

export function useKit(id: Id) {
  return useQuery({
    queryKey: computed(() => keys.kit(toValue(id) ?? '')),
    queryFn: async () => {
      const kit = await taken(client.GET('/api/kits/{kit_id}', { params: { path: { kit_id: toValue(id)! } } }))
      sawKit(kit)
      return kit
    },
    enabled: computed(() => !!toValue(id)),
  })
}

/** Colors around one: lighter, softer, warmer and their opposites, by a few steps. */
export function useVariations(hex: MaybeRefOrGetter<string>) {
  return useQuery({
    queryKey: computed(() => ['variations', toValue(hex)]),
    queryFn: () => taken(client.GET('/api/variations', { params: { query: { code: toValue(hex) } } })),
    staleTime: Infinity,
  })
}

export function useSet(id: Id) {
  return useQuery({
    queryKey: computed(() => keys.set(toValue(id) ?? '')),
    queryFn: () => taken(client.GET('/api/sets/{set_id}', { params: { path: { set_id: toValue(id)! } } })),
    enabled: computed(() => !!toValue(id)),
  })
}

export function useCheck(id: Id) {
  return useQuery({
    queryKey: computed(() => keys.check(toValue(id) ?? '')),
    queryFn: () => taken(client.GET('/api/sets/{set_id}/check', { params: { path: { set_id: toValue(id)! } } })),
    enabled: computed(() => !!toValue(id)),
    staleTime: 0,
  })
}

export function usePackage(id: Id) {
  return useQuery({
    queryKey: computed(() => ['package', toValue(id) ?? '']),
    queryFn: () => taken(client.GET('/api/sets/{set_id}/package', { params: { path: { set_id: toValue(id)! } } })),
    enabled: computed(() => !!toValue(id)),
    staleTime: 0,
  })
}

/** Puts a changed kit in the place of the old one; sets and lists are asked for again, since they follow it. */
export function followKit(kit: KitView): void {
  sawKit(kit)
  queryClient.setQueryData(keys.kit(kit.id), kit)
  void queryClient.invalidateQueries({ queryKey: ['set'] })
  void queryClient.invalidateQueries({ queryKey: keys.kits })
}

/** Milliseconds after which figures over a whole set follow a change of it: the pictures in view come first. */
const BEHIND = 600
const told = new Map<string, number>()

/** Puts a changed set in the place of the old one; the kit's stages tell of it. */
function followSet(set: SetView): void {
  queryClient.setQueryData(keys.set(set.id), set)
  void queryClient.invalidateQueries({ queryKey: keys.check(set.id) })
  const queryKey = keys.kit(set.kit_id)
  void queryClient.invalidateQueries({ queryKey, refetchType: 'none' })
  window.clearTimeout(told.get(set.kit_id))
  told.set(
    set.kit_id,
    window.setTimeout(() => void queryClient.refetchQueries({ queryKey, type: 'active', stale: true }), BEHIND),
  )
}

export function useStartKit() {
  return useMutation({
    mutationFn: (body: Schemas['NewKit']) => taken(client.POST('/api/kits', { body })),
    onSuccess: followKit,
  })
}

/** Every change of one kit. */
export function useKitChanges(id: Id) {
  const path = () => ({ kit_id: toValue(id)! })
  const change = <T>(send: (input: T) => Promise<KitView>) => useMutation({ mutationFn: send, onSuccess: followKit })
  return {
    add: change((colors: Schemas['NewColor'][]) =>
      taken(client.POST('/api/kits/{kit_id}/colors', { params: { path: path() }, body: { colors } })),
    ),
    color: change((input: { key: string } & Schemas['ColorChange']) => {
      const { key, ...body } = input
      return taken(
        client.PATCH('/api/kits/{kit_id}/colors/{key}', { params: { path: { ...path(), key } }, body }),
      )
    }),
    remove: change((key: string) =>
      taken(client.DELETE('/api/kits/{kit_id}/colors/{key}', { params: { path: { ...path(), key } } })),
    ),
    undo: change(() => taken(client.POST('/api/kits/{kit_id}/undo', { params: { path: path() } }))),
    redo: change(() => taken(client.POST('/api/kits/{kit_id}/redo', { params: { path: path() } }))),
  }
}

/** What a set can stand on and be written in, and what is so. */
export function useGroundsAndInks(set: () => SetView, file?: () => string | undefined) {
  return useQuery({
    queryKey: computed(() => [...keys.set(set().id), 'grounds', set().history.revision, file?.() ?? '']),
    queryFn: () => {
      const params = { path: { set_id: set().id }, query: { file: file?.() } }
      return taken(client.GET('/api/sets/{set_id}/grounds-and-inks', { params }))
    },
    enabled: () => !file || file() !== undefined,
    placeholderData: (previous) => previous,
  })
}

/** Every change of one set. */
export function useSetChanges(id: Id) {
  const path = () => ({ set_id: toValue(id)! })
  const change = <T>(send: (input: T) => Promise<SetView>) => useMutation({ mutationFn: send, onSuccess: followSet, onError: lookAgain })
  return {
    aim: change((body: Schemas['Aim']) =>
      taken(client.POST('/api/sets/{set_id}/aim', { params: { path: path() }, body })),
    ),
    describe: change((body: Schemas['SetChange']) =>
      taken(client.PATCH('/api/sets/{set_id}', { params: { path: path() }, body })),
    ),
    recipe: change(({ forget, ...body }: Schemas['Recipe-Input'] & { forget?: boolean }) =>
      taken(client.PUT('/api/sets/{set_id}/recipe', { params: { path: path(), query: { forget } }, body })),
    ),
    choose: change((index: number) =>
      taken(client.POST('/api/sets/{set_id}/alternatives/{index}', { params: { path: { ...path(), index } } })),
    ),
    split: change((body: Schemas['Splitting']) =>
      taken(client.POST('/api/sets/{set_id}/split', { params: { path: path() }, body })),
    ),
    join: change((body: Schemas['Joining']) =>
      taken(client.POST('/api/sets/{set_id}/join', { params: { path: path() }, body })),
    ),
    states: change((body: Schemas['FileStates']) =>
      taken(client.POST('/api/sets/{set_id}/file-states', { params: { path: path() }, body })),
    ),
    keepSelector: change((body: Schemas['SelectorKept']) =>
      taken(client.POST('/api/sets/{set_id}/kept-selectors', { params: { path: path() }, body })),
    ),
    rule: change(({ kind, target }: { kind: Schemas['Kind']; target: string | null }) =>
      taken(client.PUT('/api/sets/{set_id}/rules/{kind}', { params: { path: { ...path(), kind } }, body: { target } })),
    ),
    groundAndInk: change((body: Schemas['GroundAndInkChosen']) =>
      taken(client.PUT('/api/sets/{set_id}/ground-and-ink', { params: { path: path() }, body })),
    ),
    theme: change((body: Schemas['ThemeChosen']) =>
      taken(client.PUT('/api/sets/{set_id}/theme', { params: { path: path() }, body })),
    ),
    samples: change((body: Schemas['SamplesChange']) =>
      taken(client.PUT('/api/sets/{set_id}/samples', { params: { path: path() }, body })),
    ),
    mend: change((body: Schemas['PicturesChange']) =>
      taken(client.PUT('/api/sets/{set_id}/pictures', { params: { path: path() }, body })),
    ),
    keepPicture: change((body: Schemas['PictureKept']) =>
      taken(client.PUT('/api/sets/{set_id}/pictures/kept', { params: { path: path() }, body })),
    ),
    act: change(({ key, ...body }: Schemas['ActChange'] & { key: string }) =>
      taken(client.PUT('/api/sets/{set_id}/acts/{key}', { params: { path: { ...path(), key } }, body })),
    ),
    things: change(({ asset, ...body }: Schemas['Things'] & { asset: string }) =>
      taken(client.PUT('/api/sets/{set_id}/files/{asset_id}/things', { params: { path: { ...path(), asset_id: asset } }, body })),
    ),
    parts: change(({ asset, ...body }: Schemas['Parts'] & { asset: string }) =>
      taken(client.PUT('/api/sets/{set_id}/files/{asset_id}/parts', { params: { path: { ...path(), asset_id: asset } }, body })),
    ),
    samePart: change((body: Schemas['SamePart']) =>
      taken(client.PUT('/api/sets/{set_id}/parts', { params: { path: path() }, body })),
    ),
    headline: change(({ asset, ...body }: Schemas['Headline'] & { asset: string }) =>
      taken(client.PUT('/api/sets/{set_id}/files/{asset_id}/headline', { params: { path: { ...path(), asset_id: asset } }, body })),
    ),
    invite: change((body: Schemas['NewGuests']) =>
      taken(client.POST('/api/sets/{set_id}/guests', { params: { path: path() }, body })),
    ),
    sendAway: change((key: string) =>
      taken(client.DELETE('/api/sets/{set_id}/guests/{key}', { params: { path: { ...path(), key } } })),
    ),
    planAnew: change(() => taken(client.POST('/api/sets/{set_id}/plan', { params: { path: path() } }))),
    removeFile: change((asset: string) =>
      taken(client.DELETE('/api/assets/{asset_id}', { params: { path: { asset_id: asset } } })),
    ),
    undo: change(() => taken(client.POST('/api/sets/{set_id}/undo', { params: { path: path() } }))),
    redo: change(() => taken(client.POST('/api/sets/{set_id}/redo', { params: { path: path() } }))),
  }
}

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
const filesKey = (set: SetView | undefined) => [...keys.set(set?.id ?? ''), 'files', set?.history.revision, set?.files_key]

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
  return useQuery({
    queryKey: computed(() => [...filesKey(toValue(set)), toValue(listing), 'file', toValue(asset)]),
    queryFn: () =>
      taken(
        client.GET('/api/sets/{set_id}/files/{asset_id}', {
          params: {
            path: { set_id: toValue(set)!.id, asset_id: toValue(asset)! },
            query: asked({ ...toValue(listing), trial: undefined }),
          },
        }),
      ),
    enabled: computed(() => !!toValue(set) && !!toValue(asset)),
    placeholderData: (before) => (before?.file.id === toValue(asset) ? before : undefined),
  })
}

export function useTrial(set: MaybeRefOrGetter<SetView | undefined>, trial: MaybeRefOrGetter<Trial | undefined>) {
  return useQuery({
    queryKey: computed(() => ['trial', toValue(set)?.id, toValue(trial), toValue(set)?.history.revision]),
    queryFn: () =>
      taken(
        client.GET('/api/sets/{set_id}/trial', {
          params: { path: { set_id: toValue(set)!.id }, query: { ...toValue(trial)! } },
        }),
      ),
    enabled: computed(() => !!toValue(set) && !!toValue(trial)),
  })
}

/** How many files of a set do not stand out from a ground; it follows every change of the set. */
export function useWeak(set: MaybeRefOrGetter<SetView | undefined>, ground: MaybeRefOrGetter<string>) {
  const settled = refDebounced(
    computed(() => toValue(set)),
    BEHIND,
  )
  const { data } = useQuery({
    queryKey: computed(() => [...filesKey(settled.value), 'weak', toValue(ground)]),
    queryFn: () =>
      taken(
        client.GET('/api/sets/{set_id}/weak', {
          params: { path: { set_id: settled.value!.id }, query: { ground: toValue(ground) } },
        }),
      ),
    enabled: computed(() => !!settled.value?.files),
    placeholderData: (before) => before,
  })
  return computed(() => data.value?.weak ?? 0)
}

/** The plans that a set could have instead of the one in force. */
export function useAlternatives(set: MaybeRefOrGetter<SetView>, open: MaybeRefOrGetter<boolean>) {
  return useQuery({
    queryKey: computed(() => ['alternatives', toValue(set).id, toValue(set).history.revision]),
    queryFn: () =>
      taken(client.GET('/api/sets/{set_id}/alternatives', { params: { path: { set_id: toValue(set).id } } })),
    enabled: computed(() => toValue(open)),
  })
}

/** The text of a file: as it came, or as it becomes in a set. */
export async function sourceOf(assetId: string, query: { of?: string; side?: 'before' }): Promise<string> {
  return String(await taken(client.GET('/api/assets/{asset_id}/file', { params: { path: { asset_id: assetId }, query }, parseAs: 'text' })))
}

export async function addVariant(set: SetView, body: Schemas['NewVariant']): Promise<SetView> {
  const made = await taken(
    client.POST('/api/sets/{set_id}/variants', { params: { path: { set_id: set.id } }, body }),
  )
  void queryClient.invalidateQueries({ queryKey: ['set'] })
  followSet(made)
  return made
}

/** What depends on a set's plan and files as they are. */
export const planKey = (set: SetView) => [set.id, set.history.revision, set.files_key] as const

/** What in the plan deserves a look, on a ground. */
export function useDoubts(set: MaybeRefOrGetter<SetView>, ground: MaybeRefOrGetter<string>) {
  // Behind the pictures of a change, which are looked at first.
  const settled = refDebounced(
    computed(() => toValue(set)),
    BEHIND,
  )
  return useQuery({
    queryKey: computed(() => ['doubts', ...planKey(settled.value), toValue(ground)]),
    queryFn: () =>
      taken(
        client.GET('/api/sets/{set_id}/doubts', {
          params: { path: { set_id: settled.value.id }, query: { ground: toValue(ground) } },
        }),
      ),
    placeholderData: (before) => before,
  })
}

/** Where a paint stands in the source of a file. */
export function usePlaces(set: MaybeRefOrGetter<SetView>, asset: () => string, paint: () => string) {
  return useQuery({
    queryKey: computed(() => ['places', ...planKey(toValue(set)), asset(), paint()]),
    queryFn: () => {
      const params = { path: { set_id: toValue(set).id, asset_id: asset() }, query: { paint: paint() } }
      return taken(client.GET('/api/sets/{set_id}/files/{asset_id}/places', { params }))
    },
    placeholderData: (before) => before,
  })
}

/** A picture that moves, as it came or as it is handed over: browsers show how. */
export function playedUrl(asset: { id: string; fingerprint: string }, side: 'before' | 'after', of: string): string {
  return `/api/assets/${asset.id}/file?${new URLSearchParams({ side, of, fingerprint: asset.fingerprint })}`
}

/** What planning anew would change, while that is asked. */
export function usePlanAnew(set: MaybeRefOrGetter<SetView>, asked: Ref<boolean>) {
  return useQuery({
    queryKey: computed(() => ['anew', ...planKey(toValue(set))]),
    queryFn: () => taken(client.GET('/api/sets/{set_id}/plan/anew', { params: { path: { set_id: toValue(set).id } } })),
    enabled: asked,
  })
}

/** The plans saved for a set's kit, with how much of the set they know. */
export function usePlans(set: MaybeRefOrGetter<SetView>) {
  return useQuery({
    queryKey: computed(() => ['plans', toValue(set).id, toValue(set).paints.length]),
    queryFn: () => taken(client.GET('/api/sets/{set_id}/plans', { params: { path: { set_id: toValue(set).id } } })),
  })
}

export function usePlanSaving() {
  const again = () => queryClient.invalidateQueries({ queryKey: ['plans'] })
  return {
    save: useMutation({
      mutationFn: (input: { set: SetView; name: string }) =>
        taken(
          client.POST('/api/sets/{set_id}/plans', {
            params: { path: { set_id: input.set.id } },
            body: { name: input.name },
          }),
        ),
      onSuccess: again,
    }),
    use: useMutation({
      mutationFn: (input: { id: string; sets: string[] }) =>
        taken(client.POST('/api/plans/{plan_id}/use', { params: { path: { plan_id: input.id } }, body: { sets: input.sets } })),
      onSuccess: (changed) => changed.forEach(followSet),
    }),
    forget: useMutation({
      mutationFn: (input: { id: string; set: SetView }) =>
        taken(client.DELETE('/api/plans/{plan_id}', { params: { path: { plan_id: input.id } } })),
      onSuccess: again,
    }),
  }
}

export async function addFromStock(setId: string, ids: string[]): Promise<SetView> {
  const set = await taken(
    client.POST('/api/sets/{set_id}/stock', { params: { path: { set_id: setId } }, body: { ids } }),
  )
  followSet(set)
  return set
}

export type Channel = Schemas['NewSet']['channel']

export async function startSet(kitId: string, name: string, channel: Channel = 'icons'): Promise<SetView> {
  const set = await taken(
    client.POST('/api/kits/{kit_id}/sets', {
      params: { path: { kit_id: kitId } },
      body: { name, channel, purpose: '' },
    }),
  )
  followSet(set)
  return set
}

/** Asks for a set anew, with what tells of it: after a drop that ended before its last answer. */
export async function askAgain(kitId: string, setId: string): Promise<void> {
  await Promise.all(
    [keys.set(setId), keys.kit(kitId), keys.check(setId)].map((queryKey) => queryClient.invalidateQueries({ queryKey })),
  )
}

export async function removeSet(set: SetView): Promise<void> {
  await taken(client.DELETE('/api/sets/{set_id}', { params: { path: { set_id: set.id } } }))
  queryClient.removeQueries({ queryKey: keys.set(set.id) })
  await queryClient.invalidateQueries({ queryKey: keys.kit(set.kit_id) })
}

export function isItOurs(kitId: string, text: string) {
  return taken(client.POST('/api/kits/{kit_id}/ours', { params: { path: { kit_id: kitId } }, body: { text } }))
}

export function readCodes(text: string, kitId: string | undefined, signal: AbortSignal) {
  return taken(
    client.POST('/api/codes', { params: { query: { kit_id: kitId } }, body: { text }, signal }),
  )
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
