import type { Family } from '@/api/client'

/** The tone families, in the order in which they are listed everywhere. */
export const FAMILIES: Family[] = ['jewel', 'pastel', 'earth', 'neutral', 'fluorescent', 'near-black', 'near-white']
