import type { Answer } from '@/api/client'

/** What a verdict says to the person who asked. */
export const VERDICTS: Record<Answer['verdict'], string> = { ours: 'ours', near: 'near: use this instead', off: 'not ours' }
