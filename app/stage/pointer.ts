/** Turns DOM pointer events into the tools' own records, and handles panning and zooming, which no tool sees. */
import type { Vec } from '@marionette/core/puppet/schema'
import type { Editor } from '../editor/editor'
import { offerHeldKeys, useSession } from '../editor/session'
import { panBy, toCanvas } from './camera'
import { Fingers, wheeled } from './fingers'
import type { StageView } from './stageView'
import type { ToolEvent, ToolHost, Tool } from './tool'

/** Screen pixels that a pointer may stray before a press becomes a drag. */
const SLACK = 4

type Press =
  | { kind: 'tool'; pointer: number; x: number; y: number; dragging: boolean }
  | { kind: 'pan'; pointer: number; x: number; y: number }
  /** Two fingers that move and size the view; one that is left of them does nothing any more. */
  | { kind: 'fingers' }

/** Whether keys belong to a field, a sheet, or a list that is open. */
const isTyping = (target: HTMLElement): boolean =>
  /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName) || target.closest('[role=dialog], [role=menu], [role=listbox]') !== null

/** Listens to events until it ends. */
function listening() {
  const off: (() => void)[] = []
  return {
    on: (target: EventTarget, name: string, listener: (e: never) => void, options?: AddEventListenerOptions): void => {
      target.addEventListener(name, listener as EventListener, options)
      off.push(() => target.removeEventListener(name, listener as EventListener, options))
    },
    end: (): void => off.forEach((one) => one()),
  }
}

/** The press that a pointer begins; null for a button that means nothing. */
function pressOf({ pointerId: pointer, button }: PointerEvent, { x, y }: Vec, isSpaceDown: boolean): Press | null {
  if (button === 1 || (button === 0 && isSpaceDown)) return { kind: 'pan', pointer, x, y }
  return button === 0 ? { kind: 'tool', pointer, x, y, dragging: false } : null
}

/** Keys that are held on the keyboard or on the stage, and what a pen presses. */
function heldWith(editor: Editor, e: PointerEvent): Pick<ToolEvent, 'shift' | 'alt' | 'pressure'> {
  const { held } = useSession.of(editor).getState()
  const pressure = e.pointerType === 'pen' ? e.pressure : null
  return { shift: e.shiftKey || held.has('Shift'), alt: e.altKey || held.has('Alt'), pressure }
}

/** A finger or a pen that rests for so long opens the menu, ms. */
const LONG_PRESS = 600

export interface Connected {
  readonly tool: () => Tool
  readonly setCursor: (cursor: string) => void
  /** Opens the menu on what lies at a spot of the stage, screen px. */
  readonly openMenu: (spot: Vec) => void
}

/** Whether the space bar is down: a press pans then, whatever the tool. */
interface Hand {
  isPanning: boolean
}

interface KeyUse extends Pick<Connected, 'tool' | 'setCursor'> {
  readonly host: ToolHost
  readonly hand: Hand
  /** Calls off a press that is in progress; tells whether there was one. */
  readonly cancel: () => boolean
}

/** Keys of the tool in hand, the space bar that pans, and Escape. */
function connectKeys(on: ReturnType<typeof listening>['on'], { host, tool, setCursor, hand, cancel }: KeyUse): void {
  const onKeyDown = (e: KeyboardEvent): void => {
    const target = e.target as HTMLElement
    const wasCancelled = e.key === 'Escape' && cancel()
    if (!wasCancelled && !isTyping(target) && tool().key?.(e.key, host, e.shiftKey)) {
      e.preventDefault()
      e.stopPropagation()
      return
    }
    if (e.code !== 'Space' || /^(INPUT|TEXTAREA|SELECT|BUTTON|A)$/.test(target.tagName)) return
    e.preventDefault()
    if (!hand.isPanning) setCursor('grab')
    hand.isPanning = true
  }
  on(window, 'keydown', onKeyDown, { capture: true })
  on(window, 'keyup', (e: KeyboardEvent) => {
    if (e.code !== 'Space') return
    hand.isPanning = false
    setCursor(tool().cursor)
  })
}

/** Connects an element to the stage; returns the disconnection. */
export function connectPointer(
  element: HTMLElement,
  view: StageView,
  host: ToolHost,
  { tool, setCursor, openMenu }: Connected,
): () => void {
  let press: Press | null = null
  const hand: Hand = { isPanning: false }
  let resting: ReturnType<typeof setTimeout> | undefined
  const fingers = new Fingers()
  const local = (e: MouseEvent): { x: number; y: number } => {
    const box = element.getBoundingClientRect()
    const x = e.clientX - box.left
    // In the mirror the stage's right is on the left.
    return { x: useSession.of(view.editor).getState().mirrored ? box.width - x : x, y: e.clientY - box.top }
  }
  const send = (type: ToolEvent['type'], e: PointerEvent, dragging: boolean): void =>
    tool().pointer({ type, at: toCanvas(view.camera, local(e)), dragging, ...heldWith(view.editor, e) }, host)
  const showCursor = (e: MouseEvent): void =>
    setCursor(hand.isPanning ? 'grab' : (tool().cursorAt?.(toCanvas(view.camera, local(e)), host) ?? tool().cursor))

  const onDown = (e: PointerEvent): void => {
    if (e.target !== element && !(e.target instanceof HTMLCanvasElement)) return
    if (document.activeElement instanceof HTMLElement) document.activeElement.blur()
    element.setPointerCapture(e.pointerId)
    e.preventDefault()
    const { x, y } = local(e)
    // Offered once to hands without a keyboard; whoever hides them is not asked again.
    if (e.pointerType !== 'mouse' && useSession.of(view.editor).getState().offersHeldKeys === null) offerHeldKeys(view.editor, true)
    if (e.pointerType === 'touch') fingers.put(e.pointerId, { x, y })
    // A second finger never takes over a press: what the first one began is called off, and both move the view.
    if (fingers.count > 1) {
      if (press?.kind === 'tool') abandon()
      press = { kind: 'fingers' }
      return
    }
    if (press) return
    press = pressOf(e, { x, y }, hand.isPanning)
    if (press?.kind === 'pan') setCursor('grabbing')
    else if (press) {
      send('down', e, false)
      if (e.pointerType !== 'mouse') resting = setTimeout(() => showMenu({ x, y }), LONG_PRESS)
    }
  }
  const showMenu = (spot: Vec): void => {
    abandon()
    openMenu(spot)
  }
  const onMove = (e: PointerEvent): void => {
    const { x, y } = local(e)
    if (press?.kind === 'fingers') return view.setCamera(fingers.moved(view.camera, e.pointerId, { x, y }))
    if (press && press.pointer !== e.pointerId) return
    if (e.pointerType === 'touch') fingers.put(e.pointerId, { x, y })
    if (press?.kind === 'pan') {
      view.setCamera(panBy(view.camera, x - press.x, y - press.y))
      press = { ...press, x, y }
    } else if (press) {
      press.dragging ||= Math.hypot(x - press.x, y - press.y) > SLACK
      if (press.dragging) clearTimeout(resting)
      send('move', e, press.dragging)
    } else {
      send('hover', e, false)
      showCursor(e)
    }
  }
  const onUp = (e: PointerEvent): void => {
    clearTimeout(resting)
    fingers.lift(e.pointerId)
    const was = press
    if (was?.kind === 'fingers') {
      if (fingers.count === 0) press = null
      return
    }
    if (was && was.pointer !== e.pointerId) return
    press = null
    if (was?.kind === 'tool') send('up', e, was.dragging)
    showCursor(e)
  }
  const abandon = (): void => {
    clearTimeout(resting)
    press = null
    tool().cancel(view.editor)
    view.invalidate(false)
  }
  const onWheel = (e: WheelEvent): void => {
    e.preventDefault()
    view.setCamera(wheeled(view.camera, local(e), e))
  }
  const { on, end } = listening()
  on(element, 'pointerdown', onDown)
  on(element, 'pointermove', onMove)
  on(element, 'pointerup', onUp)
  on(element, 'contextmenu', (e: MouseEvent) => {
    if (e.target !== element && !(e.target instanceof HTMLCanvasElement)) return
    e.preventDefault()
    // What a finger that rests asks for has its own time.
    if (!press) showMenu(local(e))
  })
  on(element, 'pointercancel', (e: PointerEvent) => {
    fingers.lift(e.pointerId)
    abandon()
  })
  on(element, 'pointerleave', () => void (press ?? tool().cancel(view.editor)))
  on(element, 'wheel', onWheel, { passive: false })
  connectKeys(on, { host, tool, setCursor, hand, cancel: () => (press ? (abandon(), true) : false) })
  on(window, 'blur', abandon)
  return () => {
    clearTimeout(resting)
    end()
    tool().cancel(view.editor)
    tool().leave?.(view.editor)
  }
}
