import { useEventListener } from '@vueuse/core'
import { onBeforeUnmount, shallowRef, watchEffect } from 'vue'

/** The draft whose changes are undone from anywhere on the screen: the kit's, or the set's on its own view. */
export interface Draft {
  undo: string | null
  redo: string | null
  savedAt: string
  undoIt: () => void
  redoIt: () => void
}

export const draft = shallowRef<Draft | null>(null)

export function useDraft(current: () => Draft | null): void {
  watchEffect(() => {
    draft.value = current()
  })
  onBeforeUnmount(() => {
    draft.value = null
  })
}

/** Whether a key press is meant for a field rather than for the view. */
export function isTyping(event: KeyboardEvent): boolean {
  const target = event.target as HTMLElement | null
  return !!target?.closest('input, textarea, select, [contenteditable], [role=dialog], [role=listbox]')
}

export function useHistoryKeys(): void {
  useEventListener(window, 'keydown', (event: KeyboardEvent) => {
    const key = event.key.toLowerCase()
    if (!(event.ctrlKey || event.metaKey) || isTyping(event) || !draft.value) return
    if (key === 'z' && !event.shiftKey && draft.value.undo) draft.value.undoIt()
    else if ((key === 'y' || (key === 'z' && event.shiftKey)) && draft.value.redo) draft.value.redoIt()
    else return
    event.preventDefault()
  })
}
