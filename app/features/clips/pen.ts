/** A canvas that is as large as it is shown, in the screen's own pixels, and is drawn whenever what it shows changes. */
import { useEffect, useRef, type RefObject } from 'react'

export type Pen = CanvasRenderingContext2D

export interface Sheet {
  readonly pen: Pen
  /** Size in CSS px. */
  readonly width: number
  readonly height: number
  /** Colours of the page by their names, as they are where the canvas stands. */
  readonly colour: (name: string) => string
}

/**
 * Draws a canvas anew after each drawing of the component, and when its size changes.
 *
 * @param onWidth is told the width in CSS px
 */
export function useSheet(draw: (sheet: Sheet) => void, onWidth?: (width: number) => void): RefObject<HTMLCanvasElement | null> {
  const canvas = useRef<HTMLCanvasElement>(null)
  const latest = useRef({ draw, onWidth })
  latest.current = { draw, onWidth }
  const paint = useRef(() => {
    const own = canvas.current
    const pen = own?.getContext('2d')
    if (!own || !pen) return
    const ratio = window.devicePixelRatio || 1
    const { clientWidth: width, clientHeight: height } = own
    const [wide, high] = [Math.round(width * ratio), Math.round(height * ratio)]
    // Setting a size makes the canvas anew, also where it is the same.
    if (own.width !== wide || own.height !== high) Object.assign(own, { width: wide, height: high })
    pen.setTransform(ratio, 0, 0, ratio, 0, 0)
    const style = getComputedStyle(own)
    const known = new Map<string, string>()
    const colour = (name: string): string => {
      const variable = /^var\((.+)\)$/.exec(name)?.[1] ?? name
      const found = known.get(variable) ?? style.getPropertyValue(variable).trim()
      known.set(variable, found)
      return found
    }
    latest.current.draw({ pen, width, height, colour })
  })
  useEffect(() => paint.current())
  useEffect(() => {
    const own = canvas.current
    if (!own) return
    const observer = new ResizeObserver(() => {
      latest.current.onWidth?.(own.clientWidth)
      paint.current()
    })
    observer.observe(own)
    return () => observer.disconnect()
  }, [])
  return canvas
}
