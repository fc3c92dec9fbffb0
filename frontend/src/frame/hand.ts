import { onBeforeUnmount, shallowRef, watchEffect } from 'vue'

import type { ColorView } from '@/api/client'

/** What is waiting for a color: a paint, say. The line of pennants gives it one. */
export interface AtHand {
  label: string
  put: (color: ColorView) => void
}

export const atHand = shallowRef<AtHand | null>(null)

/** Offers something to the line of pennants for as long as the calling view is there. */
export function useHand(offer: () => AtHand | null): void {
  watchEffect(() => {
    atHand.value = offer()
  })
  onBeforeUnmount(() => {
    atHand.value = null
  })
}

/** Colors that what is open has beside the kit: they hang behind the kit's own in the line of pennants. */
export const guests = shallowRef<ColorView[]>([])

/** Lets guests into the line of pennants for as long as the calling view is there. */
export function useGuests(offer: () => ColorView[]): void {
  watchEffect(() => {
    guests.value = offer()
  })
  onBeforeUnmount(() => {
    guests.value = []
  })
}

export const DRAGGED_COLOR = 'application/x-pavese-color'
