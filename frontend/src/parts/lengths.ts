/** Longest name of a kit or a color, in characters. */
export const LONGEST_NAME = 80

/** What is wrong with a text that is too long; nothing where it is not. */
export function tooLong(text: string, longest = LONGEST_NAME): string {
  const length = [...text.trim()].length
  return length > longest ? `${length} characters; ${longest} at most` : ''
}
