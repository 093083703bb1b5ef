/**
 * Things that are dragged. A press on one takes the pointer until it is let go of, whatever lies under it: a text that is selected would be
 * taken for what is dragged, and the browser would end the press with a drag of its own.
 */
import type { PointerEvent } from 'react'

/** Classes of everything that is dragged: no scrolling by touch, no selecting, no drag of the browser's. */
export const GRIP = 'touch-none select-none [-webkit-user-drag:none]'

/** Takes the pointer of a press; what was selected on the page is let go of. */
export function grip(e: PointerEvent<Element>, element: Element = e.currentTarget): void {
  getSelection()?.removeAllRanges()
  element.setPointerCapture(e.pointerId)
}

/** Fields that are typed in. */
export const IN_TEXT = 'input, textarea, [contenteditable=true]'

/** Keeps the browser from dragging pictures, links and selected text across the page; text is still dragged inside fields. */
export function refuseNativeDrags(page: Document): void {
  page.addEventListener('dragstart', (e) => {
    if (!(e.target instanceof Element && e.target.closest(IN_TEXT))) e.preventDefault()
  })
}
