import { computed, type ComputedRef } from 'vue'

import type { AssetView, KitView } from '@/api/client'
import { useFormats } from '@/api/formats'
import type { components } from '@/api/schema'

export type Act = components['schemas']['ActView']
export type Settings = components['schemas']['ActChange']['settings']

/** What files can be given: remedies answer a remark on a file, the others can be given to any. */
export function useActs(remedies = false): ComputedRef<Act[]> {
  const { data } = useFormats()
  return computed(() => data.value?.acts.filter((act) => act.remedy === remedies) ?? [])
}

/** Of these acts, those that a file can be given. */
export function ofFile(acts: Act[], asset: AssetView): Act[] {
  return acts.filter((act) => act.key in asset.acts)
}

/** The fields that count with what was chosen first. */
export function countingFields(act: Act, settings: NonNullable<Settings>): Act['fields'] {
  const first = act.fields.find((field) => field.kind === 'choice')
  return act.fields.filter((field) => !field.only.length || !first || field.only.includes(String(settings[first.name])))
}

/** The settings of an act, or those to begin with, changed in some respects. */
export function changed(act: Act, kit: KitView, now: Settings | undefined, change: NonNullable<Settings>): NonNullable<Settings> {
  const proposed = (role: string | null) => kit.colors.find((color) => color.role === role) ?? kit.colors[0]!
  const first = Object.fromEntries(act.fields.map((field) => [field.name, field.default ?? `${proposed(field.role).key}.base`]))
  return { ...first, ...now, ...change }
}
