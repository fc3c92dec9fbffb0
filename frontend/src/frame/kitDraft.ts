import { computed, type Ref } from 'vue'

import type { KitView } from '@/api/client'
import { useKitChanges } from '@/api/kits'
import { useDraft } from './history'
import { complain } from './notices'
import { useMe } from './session'

/** Undo and redo of the kit, for every view that changes it; nothing for those who may only look. */
export function useKitDraft(kitId: Ref<string>, kit: Ref<KitView | undefined>) {
  const { undo, redo } = useKitChanges(kitId)
  const { mayChange } = useMe()
  const undoIt = () => void undo.mutateAsync(undefined).catch(complain)
  const redoIt = () => void redo.mutateAsync(undefined).catch(complain)
  const history = computed(() => (mayChange.value ? kit.value?.history : undefined))
  useDraft(() =>
    history.value
      ? { undo: history.value.undo, redo: history.value.redo, savedAt: history.value.saved_at, undoIt, redoIt }
      : null,
  )
  return { history, undoIt, redoIt }
}
