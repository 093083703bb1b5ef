/** The parts of a mouth by their names, and a mouth that is built already. */
import type { ControlId, PartId } from '../../kernel/ids'
import type { Part, Puppet } from '../../puppet/schema'
import { drawnParts } from '../../parts/tree'
import { matchRoles } from '../../roles/match'
import { namedParts } from '../../roles/naming'
import { controlChannel } from '../../controls/records'
import { sure } from '../../kernel/sure'
import { canOpen } from './lipLine'
import { movableDrawing } from './moves'
import { insideOfBeak, type MouthParts } from './plan'

/** What belongs to a mouth by name and is not the mouth. */
const BESIDE_LIPS = /shadow|shade|line|outline|corner|dimple|highlight|shine|gloss|moustache|mustache|beard/i

/** Proposes which parts are what. */
export function foundMouth(puppet: Puppet): MouthParts {
  const drawn = new Map(drawnParts(puppet, puppet.root).flatMap((p): [PartId, Part][] => (puppet.view in p.art ? [[p.id, p]] : [])))
  const roles = matchRoles(
    namedParts(puppet).filter((n) => drawn.has(n.id)),
    { naming: puppet.naming },
  ).sort((a, b) => b.certainty - a.certainty)
  const first = (role: string, isFit: (part: Part) => boolean = () => true): PartId | null =>
    roles.find((r) => r.role === role && isFit(sure(drawn.get(r.id))))?.id ?? null
  const opens = ({ id, name }: Part): boolean => {
    const drawing = movableDrawing(puppet, id)
    return !BESIDE_LIPS.test(name) && drawing !== null && canOpen(drawing)
  }
  const named = (pattern: RegExp): PartId | null => [...drawn.values()].find((p) => pattern.test(p.name) && opens(p))?.id ?? null
  const lowerBeak = first('lower-beak')
  const upperBeak = lowerBeak === null ? null : first('upper-beak', (p) => p.id !== lowerBeak && !/-inside$/.test(p.id))
  const beside = (pattern: RegExp): PartId[] => [...drawn.values()].flatMap((p) => (pattern.test(p.name) ? [p.id] : [])).slice(0, 1)
  return {
    lips: upperBeak ?? named(/\blips?\b/i) ?? first('mouth', opens) ?? named(/mouth/i) ?? '',
    teethUpper: first('upper-teeth'),
    teethLower: first('lower-teeth'),
    tongue: first('tongue'),
    along: beside(/mouth corners?|dimples?|moustache|mustache/i),
    below: beside(/\blips? shadow|below (the )?(lips?|mouth)/i),
    lowerBeak: upperBeak === null ? null : lowerBeak,
  }
}

/** A mouth that was built. */
export interface BuiltMouth {
  readonly lips: PartId
  readonly control: ControlId
  /** What the ids of its controls begin with; null where they were made by hand. */
  readonly id: string | null
  /** Whether it is a beak: then the outline of its upper half is none of an opening. */
  readonly isBeak: boolean
}

/** The mouth that answers to a slider which says how far it is open; null where there is none. */
export function builtMouth({ controls, responses, parts }: Pick<Puppet, 'controls' | 'responses' | 'parts'>): BuiltMouth | null {
  for (const control of controls.filter((c) => c.voice === 'open')) {
    const channel = controlChannel(control)
    const response = responses.find((r) => r.inputs.some((i) => i.kind === 'channel' && i.channel === channel))
    const change = response?.stops.flatMap((s) => s.changes).find((c) => c.kind === 'points')
    if (change?.kind !== 'points') continue
    const id = /^(.+)-open$/.exec(control.id)?.[1] ?? null
    return { lips: change.part, control: control.id, id, isBeak: id !== null && insideOfBeak(id) in parts }
  }
  return null
}
