/** Keys as they are printed, and as people of each system read them. */
import { nth } from '@marionette/core/kernel/sure'

const isMac = (): boolean =>
  typeof navigator !== 'undefined' && /mac/i.test(navigator.userAgent) && !/iphone|ipad|ipod/i.test(navigator.userAgent)

/** Keys for people: what is Ctrl elsewhere is Cmd on a Mac. */
export const keysShown = (keys: string, mac = isMac()): string =>
  mac ? keys.replace(/\bCtrl\b/g, 'Cmd').replace(/\bAlt\b/g, 'Option') : keys

/** Signs by the names that stand for them in key tables, where a plus joins keys. */
const SIGNS: Readonly<Record<string, string>> = { plus: '+', minus: '-', equal: '=', question: '?' }

/** Whether a dialog is open: keys are meant for it alone. */
export const isDialogOpen = (): boolean => document.querySelector('[role="dialog"]') !== null

/** Joins keys in place of the plus, which is a key itself. */
export const JOIN = '&'

/** Keys of a table as they are listened to: signs written out, joined by JOIN. */
export const listened = (keys: string): string =>
  keys
    .split(',')
    .map((one) =>
      one
        .trim()
        .split('+')
        .map((key) => SIGNS[key] ?? key)
        .join(JOIN),
    )
    .join(',')

/** Whether keys are meant by their place: digits stand in one row on every keyboard, whatever they print unshifted. */
export const isByPlace = (keys: string): boolean => /(^|\+)\d$/.test(keys)

/** Whether a key prints no letter or sign that tables could name: on Cyrillic or Greek keyboards the place has to tell. */
export const printsNothingKnown = ({ key }: { readonly key: string }): boolean => key.length === 1 && key.charCodeAt(0) > 127

/** Keys that people name otherwise than tables. */
const NAMES: Readonly<Record<string, string>> = {
  mod: 'Ctrl',
  minus: '−',
  plus: '+',
  equal: '=',
  question: '?',
  pageup: 'Page up',
  pagedown: 'Page down',
}

const nameOf = (key: string): string => NAMES[key] ?? key.charAt(0).toUpperCase() + key.slice(1)

/** The first way of keys of a table, for people: `mod+shift+z, mod+y` is Ctrl Shift Z. */
export const shownKeys = (keys: string): string => (keys === '' ? '' : nth(keys.split(','), 0).trim().split('+').map(nameOf).join(' '))

/** Keys that have their own meaning everywhere: they move, pan, close, or play a cue. */
const TAKEN = /^(escape|tab| |arrow|\[|\]|capslock|contextmenu|dead|process|unidentified)/i
const HELD = /^(control|shift|alt|altgraph|meta)$/i
const NAMED = /^(f\d+|enter|delete|backspace|home|end|pageup|pagedown|insert)$/i

export type Pressed =
  | { readonly kind: 'keys'; readonly keys: string }
  /** A key that is only held so far. */
  | { readonly kind: 'held' }
  | { readonly kind: 'refused'; readonly why: string }

type KeyPress = Pick<KeyboardEvent, 'key' | 'code' | 'ctrlKey' | 'metaKey' | 'altKey' | 'shiftKey'>

/** Keys as a table writes them, from a press of them. */
export function pressedKeys({ key, code, ctrlKey, metaKey, altKey, shiftKey }: KeyPress): Pressed {
  if (HELD.test(key)) return { kind: 'held' }
  if (TAKEN.test(key)) return { kind: 'refused', why: 'This key has its own meaning everywhere.' }
  if (altKey) return { kind: 'refused', why: 'Alt and a key play cues.' }
  const before = `${ctrlKey || metaKey ? 'mod+' : ''}${shiftKey ? 'shift+' : ''}`
  const digit = /^(?:Digit|Numpad)(\d)$/.exec(code)?.[1]
  const letter = /^[a-z]$/i.test(key)
    ? key.toLowerCase()
    : printsNothingKnown({ key })
      ? /^Key([A-Z])$/.exec(code)?.[1]?.toLowerCase()
      : undefined
  const plain = digit ?? letter ?? (NAMED.test(key) ? key.toLowerCase() : undefined)
  if (plain !== undefined) return { kind: 'keys', keys: before + plain }
  const sign = Object.entries(SIGNS).find(([, print]) => print === key)?.[0]
  if (sign === undefined) return { kind: 'refused', why: 'Letters, digits, function keys and + − = ? can be used.' }
  // A sign stands on another key, or needs Shift, on each keyboard: it is meant either way.
  const held = ctrlKey || metaKey ? 'mod+' : ''
  return { kind: 'keys', keys: `${held}${sign}, ${held}shift+${sign}` }
}
