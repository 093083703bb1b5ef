/** Turns DOM pointer events into the tools' own records, and handles panning and zooming, which no tool sees. */
import { useSession } from '../editor/session'
import { panBy, toCanvas, zoomAt } from './camera'
import type { StageView } from './stageView'
import type { ToolEvent, ToolHost, Tool } from './tool'

/** Screen pixels that a pointer may stray before a press becomes a drag. */
const SLACK = 4

type Press = { kind: 'tool'; x: number; y: number; dragging: boolean } | { kind: 'pan'; x: number; y: number }

/** Connects an element to the stage; returns the disconnection. */
export function connectPointer(
  element: HTMLElement,
  view: StageView,
  host: ToolHost,
  tool: () => Tool,
  setCursor: (cursor: string) => void,
): () => void {
  let press: Press | null = null
  let isSpaceDown = false
  const local = (e: MouseEvent): { x: number; y: number } => {
    const box = element.getBoundingClientRect()
    const x = e.clientX - box.left
    // In the mirror the stage's right is on the left.
    return { x: useSession.of(view.editor).getState().mirrored ? box.width - x : x, y: e.clientY - box.top }
  }
  const send = (type: ToolEvent['type'], e: MouseEvent, dragging: boolean): void =>
    tool().pointer({ type, at: toCanvas(view.camera, local(e)), dragging, shift: e.shiftKey, alt: e.altKey }, host)
  const showCursor = (e: MouseEvent): void =>
    setCursor(isSpaceDown ? 'grab' : (tool().cursorAt?.(toCanvas(view.camera, local(e)), host) ?? tool().cursor))

  const onDown = (e: PointerEvent): void => {
    if (e.target !== element && !(e.target instanceof HTMLCanvasElement)) return
    if (document.activeElement instanceof HTMLElement) document.activeElement.blur()
    element.setPointerCapture(e.pointerId)
    const { x, y } = local(e)
    if (e.button === 1 || (e.button === 0 && isSpaceDown)) {
      press = { kind: 'pan', x, y }
      setCursor('grabbing')
    } else if (e.button === 0) {
      press = { kind: 'tool', x, y, dragging: false }
      send('down', e, false)
    }
    e.preventDefault()
  }
  const onMove = (e: PointerEvent): void => {
    const { x, y } = local(e)
    if (press?.kind === 'pan') {
      view.setCamera(panBy(view.camera, x - press.x, y - press.y))
      press = { kind: 'pan', x, y }
    } else if (press) {
      press.dragging ||= Math.hypot(x - press.x, y - press.y) > SLACK
      send('move', e, press.dragging)
    } else {
      send('hover', e, false)
      showCursor(e)
    }
  }
  const onUp = (e: PointerEvent): void => {
    const was = press
    press = null
    if (was?.kind === 'tool') send('up', e, was.dragging)
    showCursor(e)
  }
  const abandon = (): void => {
    press = null
    tool().cancel(view.editor)
    view.invalidate(false)
  }
  const onWheel = (e: WheelEvent): void => {
    e.preventDefault()
    const unit = e.deltaMode === 1 ? 16 : 1
    if (e.shiftKey && !e.ctrlKey) view.setCamera(panBy(view.camera, -(e.deltaX || e.deltaY) * unit, 0))
    else view.setCamera(zoomAt(view.camera, local(e), Math.exp(-e.deltaY * unit * (e.ctrlKey ? 0.01 : 0.0016))))
  }
  const onKeyDown = (e: KeyboardEvent): void => {
    const target = e.target as HTMLElement
    const isTyping = /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName) || target.closest('[role=dialog]') !== null
    if (e.key === 'Escape' && press) abandon()
    else if (!isTyping && tool().key?.(e.key, host, e.shiftKey)) {
      e.preventDefault()
      e.stopPropagation()
      return
    }
    if (e.code !== 'Space' || /^(INPUT|TEXTAREA|SELECT|BUTTON|A)$/.test(target.tagName)) return
    e.preventDefault()
    if (!isSpaceDown) setCursor('grab')
    isSpaceDown = true
  }
  const onKeyUp = (e: KeyboardEvent): void => {
    if (e.code !== 'Space') return
    isSpaceDown = false
    setCursor(tool().cursor)
  }
  const onLeave = (): void => {
    if (!press) tool().cancel(view.editor)
  }
  const off: (() => void)[] = []
  const on = <K extends string>(target: EventTarget, name: K, listener: (e: never) => void, options?: AddEventListenerOptions): void => {
    target.addEventListener(name, listener as EventListener, options)
    off.push(() => target.removeEventListener(name, listener as EventListener))
  }
  on(element, 'pointerdown', onDown)
  on(element, 'pointermove', onMove)
  on(element, 'pointerup', onUp)
  on(element, 'pointercancel', abandon)
  on(element, 'pointerleave', onLeave)
  on(element, 'wheel', onWheel, { passive: false })
  on(window, 'keydown', onKeyDown, { capture: true })
  on(window, 'keyup', onKeyUp)
  on(window, 'blur', abandon)
  return () => {
    for (const end of off) end()
    tool().cancel(view.editor)
    tool().leave?.(view.editor)
  }
}
