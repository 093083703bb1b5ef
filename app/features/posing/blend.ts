/** A picture of a pose: a click takes it up, a drag sideways blends towards it. */
import { useRef, type PointerEvent } from 'react'
import { grip } from '../../ui/grip'

/** Px of a drag that blend all the way, and before which it is a click. */
const WAY = 80
const STILL = 4

interface Blend {
  readonly begin: () => void
  /** Told the share of the way, above 0 to 1. */
  readonly move: (share: number) => void
  readonly end: (isKept: boolean) => void
  readonly click: () => void
}

/** Pointer handlers for such a picture. */
export function useBlend({ begin, move, end, click }: Blend) {
  const drag = useRef<{ x: number; share: number } | null>(null)
  const finish = (isKept: boolean): void => {
    const held = drag.current
    drag.current = null
    if (!held) return
    if (held.share > 0) end(isKept)
    else if (isKept) click()
  }
  return {
    onPointerDown: (e: PointerEvent): void => {
      if (e.button !== 0) return
      grip(e)
      drag.current = { x: e.clientX, share: 0 }
    },
    onPointerMove: (e: PointerEvent): void => {
      const held = drag.current
      if (!held || (held.share === 0 && Math.abs(e.clientX - held.x) < STILL)) return
      if (held.share === 0) begin()
      held.share = Math.min(1, Math.max(0.01, Math.abs(e.clientX - held.x) / WAY))
      move(held.share)
    },
    onPointerUp: () => finish(true),
    onPointerCancel: () => finish(false),
  }
}
