/** Controls that motions lead: found by what they are for, else by the words in their names. */
import { axesOf, controlChannel, rangeAlong, valueAtShare, type Control } from '../controls/records'
import type { Puppet } from '../puppet/schema'

/** A channel of a control, and its value for a share from -1 to 1 of what it can do. */
export interface Lead {
  readonly channel: string
  valueAt(share: number): number
}

const NAMES: Readonly<Record<string, RegExp>> = {
  lids: /\b(lids?|blink)\b/i,
  brows: /\bbrows?\b/i,
  mood: /\b(mood|smile|happy)\b/i,
  turn: /\b(head turn|turn)\b/i,
  crest: /\bcrest\b/i,
  gaze: /\b(gaze|look|eyes)\b/i,
}

function leadOf(control: Control, axis: 'value' | 'x' | 'y'): Lead {
  const range = rangeAlong(control, axis)
  return {
    channel: controlChannel(control, axis),
    valueAt: (share) => valueAtShare(range, share),
  }
}

/** Leads by the terms that use them: `mouth.open`, `lids`, `brows`, `mood`, `turn.x`, `turn.y`, `gaze.x`, `gaze.y`. */
export function leadsOf({ controls }: Pick<Puppet, 'controls'>): Map<string, Lead> {
  const out = new Map<string, Lead>()
  const open = controls.find((control) => control.voice === 'open')
  if (open) out.set('mouth.open', leadOf(open, 'value'))
  for (const [term, words] of Object.entries(NAMES)) {
    const isPad = term === 'turn' || term === 'gaze'
    const found = controls.find((control) => words.test(control.name) && (control.kind === 'pad') === isPad)
    if (!found) continue
    for (const axis of axesOf(found)) out.set(axis === 'value' ? term : `${term}.${axis}`, leadOf(found, axis))
  }
  return out
}
