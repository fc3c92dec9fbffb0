import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'

/** The views of a stage, in the address; the first one is the stage's own and is not named there. */
export function useSubviews<T extends string>(stage: string, views: readonly { value: T; label: string }[]) {
  const route = useRoute()
  const router = useRouter()
  const first = views[0]!.value
  return computed<T>({
    get: () => views.find((entry) => entry.value === route.params.view)?.value ?? first,
    set: (name) =>
      void router.push({ name: stage, params: { kitId: route.params.kitId, view: name === first ? '' : name } }),
  })
}
