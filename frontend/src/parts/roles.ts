import type { Role } from '@/api/client'

interface RoleShape {
  role: Role
  /** What the shape is called in the legend. */
  shape: string
  /** Outline in a box of 56 x 36. */
  path: string
}

/** The shapes of the pennants, decided here once; the order is that of the line. */
export const ROLES: RoleShape[] = [
  { role: 'primary', shape: 'swallowtail', path: 'M1 0H55V35L28 24L1 35Z' },
  { role: 'secondary', shape: 'point', path: 'M1 0H55V24L28 35L1 24Z' },
  { role: 'action', shape: 'round', path: 'M1 0H55V12C55 26 43 35 28 35S1 26 1 12Z' },
  { role: 'accent', shape: 'triangle', path: 'M1 0H55L28 35Z' },
  { role: 'background', shape: 'square', path: 'M1 0H55V35H1Z' },
  { role: 'neutral', shape: 'half height', path: 'M1 0H55V19H1Z' },
  { role: 'text light', shape: 'notch at the left', path: 'M1 0H55V35H28V21H1Z' },
  { role: 'text dark', shape: 'notch at the right', path: 'M1 0H55V21H28V35H1Z' },
]

export const ROLE_NAMES: Role[] = ROLES.map((entry) => entry.role)

export function shapeOf(role: Role): RoleShape {
  return ROLES.find((entry) => entry.role === role)!
}
