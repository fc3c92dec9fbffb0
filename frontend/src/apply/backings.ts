/** The shapes that can be laid behind a drawing, as the server names them. */
export const BACKINGS = ['circle', 'rounded square', 'square', 'flag'] as const
