/** Keys that show a value of a channel: with Alt held down, or until they are pressed again. They lie over the pose and leave it as it is. */
import type { Cue } from '@marionette/core/document/schema'
import { useDocument } from './document'
import { cue } from './live'

/** Keys that are down, and those that were pressed to stay. */
const held = new Set<string>()
const staying = new Set<string>()

const cueOf = (key: string): Cue | undefined => useDocument.getState().puppet?.cues.find((c) => c.key === key)

function show(): void {
  const cues = useDocument.getState().puppet?.cues ?? []
  const shown = cues.filter((c) => (c.how === 'hold' ? held : staying).has(c.key))
  cue(shown.length === 0 ? null : Object.fromEntries(shown.map((c) => [c.channel, c.value])))
}

/** The letter or digit of a key event, wherever Alt would make another sign of it. */
export const keyOf = (e: Pick<KeyboardEvent, 'code'>): string | null => /^(?:Key|Digit)([A-Z0-9])$/.exec(e.code)?.[1]?.toLowerCase() ?? null

function press(e: KeyboardEvent): void {
  const key = e.altKey && !e.ctrlKey && !e.metaKey ? keyOf(e) : null
  const found = key === null ? undefined : cueOf(key)
  if (!found || document.querySelector('[role="dialog"]')) return
  e.preventDefault()
  e.stopPropagation()
  if (e.repeat) return
  if (found.how === 'hold') held.add(found.key)
  else if (!staying.delete(found.key)) staying.add(found.key)
  show()
}

function release(e: KeyboardEvent): void {
  const key = keyOf(e)
  if (e.key === 'Alt' ? held.size > 0 : key !== null && held.has(key)) {
    if (e.key === 'Alt') held.clear()
    else held.delete(key!)
    show()
  }
}

/** Ends all that keys show. */
export function dropCues(): void {
  held.clear()
  staying.clear()
  show()
}

/** Listens to keys as long as a puppet is open; returns how to end it. */
export function listenToCues(): () => void {
  const blurred = (): void => {
    held.clear()
    show()
  }
  window.addEventListener('keydown', press, { capture: true })
  window.addEventListener('keyup', release, { capture: true })
  window.addEventListener('blur', blurred)
  return () => {
    window.removeEventListener('keydown', press, { capture: true })
    window.removeEventListener('keyup', release, { capture: true })
    window.removeEventListener('blur', blurred)
    dropCues()
  }
}

// A key that is taken away lets go of what it shows.
useDocument.subscribe((s, before) => {
  if (s.puppet?.cues !== before.puppet?.cues && held.size + staying.size > 0) show()
})
