import type { Directive } from 'vue'

/** Says what something means when one points at it or comes to it by key; `HintLayer` shows it. */
export const vHint: Directive<HTMLElement, string | undefined> = {
  mounted: (element, { value }) => put(element, value),
  updated: (element, { value, oldValue }) => {
    if (value !== oldValue) put(element, value)
  },
}

function put(element: HTMLElement, words: string | undefined): void {
  const reached = element.matches('a, button, input') ? element : (element.querySelector('input') ?? element)
  if (words) {
    element.dataset.hint = words
    reached.setAttribute('aria-description', words)
  } else {
    delete element.dataset.hint
    reached.removeAttribute('aria-description')
  }
}

declare module 'vue' {
  interface GlobalDirectives {
    vHint: typeof vHint
  }
}
