/** Text on a page that cannot be read: cut off without saying so, beside its box, or under other text. */
import type { Page } from 'puppeteer-core'

/**
 * What is wrong with the text that is seen, in one line each. Text that ends in an ellipsis says that there is more; what lies outside of
 * an area that scrolls is not seen.
 */
export const textFaults = (page: Page): Promise<string[]> =>
  page.evaluate(() => {
    interface Line {
      readonly text: string
      readonly box: DOMRect
      readonly element: Element
      /** Whether its text is broken into several lines. */
      readonly isBroken: boolean
    }
    const isSeen = (e: Element): boolean => (e as HTMLElement).checkVisibility({ opacityProperty: true, visibilityProperty: true })
    /** The nearest box around an element that cuts off what is beside it, along one way. */
    const cutterOf = (from: Element, way: 'X' | 'Y'): Element | null => {
      for (let e: Element | null = from; e && e !== document.body; e = e.parentElement)
        if (getComputedStyle(e)[`overflow${way}`] !== 'visible') return e
      return null
    }
    /** What all boxes around an element show of a box; null where that is nothing. */
    const shownOf = (from: Element, box: DOMRect): DOMRect | null => {
      let { left, top, right, bottom } = box
      for (let e: Element | null = from; e && e !== document.body; e = e.parentElement) {
        const { overflowX, overflowY } = getComputedStyle(e)
        const own = e.getBoundingClientRect()
        if (overflowY !== 'visible') [top, bottom] = [Math.max(top, own.top), Math.min(bottom, own.bottom)]
        if (overflowX !== 'visible') [left, right] = [Math.max(left, own.left), Math.min(right, own.right)]
      }
      return right - left > 1 && bottom - top > 2 ? new DOMRect(left, top, right - left, bottom - top) : null
    }
    const name = (e: Element): string => {
      const near = e.closest('[aria-label]')?.getAttribute('aria-label')
      return near ? ` (${near})` : ''
    }
    const linesIn = (root: Element): Line[] => {
      const lines: Line[] = []
      const walker = document.createTreeWalker(root, NodeFilter.SHOW_TEXT)
      for (let node = walker.nextNode(); node; node = walker.nextNode()) {
        const element = node.parentElement
        const text = node.textContent?.trim() ?? ''
        if (!element || text === '' || !isSeen(element) || element.closest('.sr-only, select, option, canvas')) continue
        const range = document.createRange()
        range.selectNodeContents(node)
        const boxes = [...range.getClientRects()].filter((box) => box.width > 1 && box.height > 1)
        const isBroken = new Set(boxes.map((box) => Math.round(box.top / 4))).size > 1
        for (const box of boxes) lines.push({ text, box, element, isBroken })
      }
      return lines
    }
    const scrolls = (e: Element, way: 'X' | 'Y'): boolean => /auto|scroll/.test(getComputedStyle(e)[`overflow${way}`])
    const isCutAtSide = ({ box, element }: Line): boolean => {
      const cutter = cutterOf(element, 'X')
      if (!cutter || scrolls(cutter, 'X') || getComputedStyle(cutter).textOverflow === 'ellipsis') return false
      const own = cutter.getBoundingClientRect()
      return box.right > own.right + 1.5 || box.left < own.left - 1.5
    }
    const isCutAboveOrBelow = ({ box, element }: Line): boolean => {
      const cutter = cutterOf(element, 'Y')
      const own = cutter?.getBoundingClientRect()
      return cutter !== null && own !== undefined && !scrolls(cutter, 'Y') && (box.bottom > own.bottom + 3 || box.top < own.top - 3)
    }
    const isWiderThanButton = ({ box, element }: Line): boolean => {
      const cutter = cutterOf(element, 'X')
      if (cutter && getComputedStyle(cutter).textOverflow === 'ellipsis') return false
      const own = element.closest('button, [role=tab], a')?.getBoundingClientRect()
      return own !== undefined && (box.right > own.right + 1.5 || box.left < own.left - 1.5)
    }
    const isBrokenInButton = ({ element, isBroken }: Line): boolean =>
      isBroken && (element.closest('button, [role=tab], a')?.getBoundingClientRect().height ?? Infinity) < 40
    const layerOf = (e: Element): Element | null =>
      e.closest('[data-testid=stage-view], [role=menu], [role=tooltip], aside, section, header, [role=dialog]')
    const isOver = (a: Line, b: Line): boolean => {
      if (a.element.contains(b.element) || b.element.contains(a.element) || layerOf(a.element) !== layerOf(b.element)) return false
      const width = Math.min(a.box.right, b.box.right) - Math.max(a.box.left, b.box.left)
      const height = Math.min(a.box.bottom, b.box.bottom) - Math.max(a.box.top, b.box.top)
      return width > 2 && height > 4
    }
    const CHECKS: readonly (readonly [string, (line: Line) => boolean])[] = [
      ['cut off at the side', isCutAtSide],
      ['cut off above or below', isCutAboveOrBelow],
      ['wider than its button', isWiderThanButton],
      ['a button on two lines', isBrokenInButton],
    ]
    const faults: string[] = []
    const seen: Line[] = []
    for (const line of linesIn(document.querySelector('[role=dialog]') ?? document.body)) {
      const shown = shownOf(line.element, line.box)
      // Scrolled away, or on a line that folds away when there is no room for it.
      if (!shown) continue
      const words = `“${line.text.slice(0, 50)}”${name(line.element)}`
      for (const [what, isFault] of CHECKS) if (isFault(line)) faults.push(`${what}: ${words}`)
      if (shown.right > innerWidth + 1 || shown.left < -1) faults.push(`beside the page: ${words}`)
      const own = { ...line, box: shown }
      for (const other of seen) if (isOver(own, other)) faults.push(`over each other: “${other.text.slice(0, 40)}” and ${words}`)
      seen.push(own)
    }
    return [...new Set(faults)]
  })
