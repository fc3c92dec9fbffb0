import type { Vision } from '@/api/client'

/** Ways of seeing, in words. */
export const VISIONS: { vision: Vision; seen: string; name: string }[] = [
  { vision: 'usual', seen: 'as usual', name: 'usual vision' },
  { vision: 'protan', seen: 'seen with protan deficiency', name: 'protan' },
  { vision: 'deutan', seen: 'seen with deutan deficiency', name: 'deutan' },
  { vision: 'tritan', seen: 'seen with tritan deficiency', name: 'tritan' },
  { vision: 'greyscale', seen: 'in greyscale', name: 'greyscale' },
]

export function visionName(vision: Vision): string {
  return VISIONS.find((entry) => entry.vision === vision)!.name
}

export function seenWith(vision: Vision): string {
  return VISIONS.find((entry) => entry.vision === vision)!.seen
}
