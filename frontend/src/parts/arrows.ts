const ARROWS: Readonly<Record<string, [number, number]>> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }

/** The step of an arrow key, across and down; nothing for another key. */
export function arrow(event: KeyboardEvent): [number, number] | undefined {
  return event.ctrlKey || event.metaKey || event.altKey ? undefined : ARROWS[event.key]
}
