/**
 * Arguments for commands, made from their schemas: every command that is listed can be tried without a word about it here. Ids are
 * mostly those of things that are there, sometimes of other kinds, of nothing, or words that every object knows; numbers are
 * mostly ordinary, sometimes at the edge of what a double can hold.
 */
import type { z } from 'zod'
import { addressesOf, channelOf } from '../../puppet/channels'
import { ID_SCHEMAS, type IdKind } from '../../kernel/ids'
import { handlesOf } from '../../deformers/records'
import type { Puppet } from '../../puppet/schema'
import { samplesOf } from './samples'
import { deformersInViews } from '../../deformers/stack'

export type Random = () => number

export const pick = <T>(list: readonly T[], random: Random): T | undefined =>
  list[Math.min(list.length - 1, Math.floor(random() * list.length))]

/** Words that are found in every plain object, and ids that mean something elsewhere. */
const HOSTILE = ['constructor', 'toString', '__proto__', 'hasOwnProperty', 'trash', 'none', '']
const EXTREME = [1e200, -1e200, 1e308, 5e-324, -5e-324, 1e-300, 1e12, -1e12, 1e7, -1e7, 1e-6, -0, 0, 1, -1]

const ids = (records: Record<string, unknown>): string[] => Object.keys(records)
const listed = (records: readonly { id: string }[]): string[] => records.map((r) => r.id)

/** Ids of a kind that a puppet has. */
export function idsOfKind(puppet: Puppet, kind: IdKind): string[] {
  const deformers = (): ReturnType<typeof deformersInViews> => Object.values(puppet.parts).flatMap(deformersInViews)
  switch (kind) {
    case 'puppet':
      return [puppet.id]
    case 'part':
      return ids(puppet.parts)
    case 'bone':
      return ids(puppet.bones)
    case 'drawing':
      return ids(puppet.drawings)
    case 'picture':
      return ids(puppet.pictures)
    case 'art':
      return [...ids(puppet.drawings), ...ids(puppet.pictures)]
    case 'joint':
      return ids(puppet.joints)
    case 'target':
      return ids(puppet.targets)
    case 'view':
      return listed(puppet.views)
    case 'swatch':
      return listed(puppet.palette)
    case 'constraint':
      return listed(puppet.constraints)
    case 'control':
      return listed(puppet.controls)
    case 'response':
      return listed(puppet.responses)
    case 'flipbook':
      return listed(puppet.flipbooks)
    case 'pose':
      return listed(puppet.poses)
    case 'cue':
      return listed(puppet.cues)
    case 'clip':
      return listed(puppet.clips)
    case 'layer':
      return puppet.clips.flatMap((c) => listed(c.layers))
    case 'hung-pose':
      return puppet.clips.flatMap((c) => listed(c.poses))
    case 'marker':
      return puppet.clips.flatMap((c) => listed(c.markers))
    case 'sound':
      return puppet.clips.flatMap((c) => listed(c.sounds))
    case 'spring':
      return listed(puppet.springs)
    case 'collider':
      return listed(puppet.colliders)
    case 'stride':
      return listed(puppet.strides)
    case 'idle':
      return listed(puppet.idles)
    case 'stop':
      return puppet.responses.flatMap((r) => listed(r.stops))
    case 'deformer':
      return deformers().map((d) => d.id)
    case 'handle':
      return deformers().flatMap(handlesOf)
    case 'channel':
      return channelsOf(puppet)
    case 'prefix':
      return []
  }
}

function channelsOf(puppet: Puppet): string[] {
  const families = ['part', 'bone', 'control', 'target', 'constraint', 'deformer', 'handle', 'puppet', 'layer'] as const
  const addresses = families.flatMap((family) => idsOfKind(puppet, family).flatMap((id) => addressesOf(family, id)))
  return addresses.filter((address) => channelOf(puppet, address))
}

/** Makes arguments for one puppet; `extremes` is the share of values that are out of the ordinary. */
export class Arguments {
  private made = 0

  constructor(
    private readonly puppet: Puppet,
    private readonly random: Random,
    private readonly extremes = 0.06,
  ) {}

  private chance(share: number): boolean {
    return this.random() < share
  }

  private id(kind: IdKind): string {
    if (kind === 'prefix') return `p${Math.floor(this.random() * 1e9)}-${++this.made}`
    if (this.chance(this.extremes)) return pick(HOSTILE, this.random)!
    if (this.chance(0.04)) return pick([...ids(this.puppet.parts), ...ids(this.puppet.bones)], this.random) ?? 'none'
    const there = idsOfKind(this.puppet, kind)
    if (there.length > 0 && this.chance(0.85)) return pick(there, this.random)!
    return kind === 'channel' ? 'bone/nobody/angle' : `${kind}-${Math.floor(this.random() * 1e9)}-${++this.made}`
  }

  private number({ minimum, maximum }: { minimum?: number | undefined; maximum?: number | undefined }, whole: boolean): number {
    if (this.chance(this.extremes)) return pick(EXTREME, this.random)!
    const low = Math.max(minimum ?? -200, -200)
    const high = Math.min(maximum ?? 400, Math.max(400, low + 10))
    // What counts something small, as an index, is meant far more often than a large number.
    const value =
      whole && this.chance(0.7) ? low + Math.floor(this.random() * Math.min(5, high - low + 1)) : low + this.random() * (high - low)
    return whole ? Math.round(value) : value
  }

  private text(pattern: RegExp | undefined, most: number): string {
    const digits = '0123456789abcdef'
    const hex = (n: number): string => Array.from({ length: n }, () => pick([...digits], this.random)!).join('')
    for (const made of [`Name ${Math.floor(this.random() * 99)}`, `#${hex(6)}`, hex(64), hex(1), 'upper-arm:left'])
      if (!pattern || pattern.test(made)) return made.slice(0, most)
    return 'x'
  }

  /** A copy of a record that is there, mostly under a new id, with one or two things in it made anew. */
  private changed(sample: unknown, schema: z.ZodType): unknown {
    const copy = JSON.parse(JSON.stringify(sample)) as Record<string, unknown>
    let { def } = schema._zod as unknown as { def: Definition }
    if (def.type === 'union') {
      const fits = def.options!.find((o) => o.safeParse(sample).success)
      if (fits) ({ def } = fits._zod as unknown as { def: Definition })
    }
    const fields = Object.entries(def.shape ?? {})
    const own = fields.find(([key]) => key === 'id')
    if (own && this.chance(0.6)) copy['id'] = this.of(own[1], 3)
    for (let n = Math.floor(this.random() * 3); n > 0 && fields.length > 0; n--) {
      const [key, inner] = pick(fields, this.random)!
      if (key !== 'id') copy[key] = this.of(inner, 3)
    }
    return copy
  }

  /** A value for a schema; not always one that fits. */
  of(schema: z.ZodType, depth = 0): unknown {
    const known = ID_SCHEMAS.get(schema)
    if (known) return this.id(known.kind)
    const samples = samplesOf(schema, this.puppet)
    if (samples && samples.length > 0 && this.chance(0.85)) return this.changed(pick(samples, this.random)!, schema)
    // The shapes of schemas are read where the library keeps them.
    const { def } = schema._zod as unknown as { def: Definition }
    const bag = limitsOf(def)
    switch (def.type) {
      case 'object':
        return Object.fromEntries(
          Object.entries(def.shape!).flatMap(([key, inner]) => {
            const isLeftOut = inner._zod.def.type === 'optional' && this.chance(0.5)
            return isLeftOut ? [] : [[key, this.of(inner, depth + 1)]]
          }),
        )
      case 'array': {
        const { minimum = 0, maximum = 8, length } = bag
        const n = length ?? Math.min(maximum, minimum + Math.floor(this.random() * (depth > 4 ? 2 : 4)))
        const list = Array.from({ length: n }, () => this.of(def.element!, depth + 1))
        // One thing named twice.
        if (list.length > 0 && list.length < maximum && this.chance(this.extremes)) list.push(list[0])
        return list
      }
      case 'record': {
        const n = Math.floor(this.random() * 3)
        return Object.fromEntries(Array.from({ length: n }, () => [String(this.of(def.keyType!)), this.of(def.valueType!, depth + 1)]))
      }
      case 'tuple':
        return def.items!.map((item) => this.of(item, depth + 1))
      case 'union':
        return this.of(pick(def.options!, this.random)!, depth + 1)
      case 'nullable':
        return this.chance(0.5) ? null : this.of(def.innerType!, depth)
      case 'optional':
        return this.of(def.innerType!, depth)
      case 'literal':
        return pick(def.values!, this.random)
      case 'enum':
        return pick(Object.values(def.entries!), this.random)
      case 'boolean':
        return this.chance(0.5)
      case 'number':
        return this.number(bag, bag.isWhole)
      case 'string':
        return this.text(bag.pattern, bag.maximum ?? 200)
      case 'null':
        return null
      default:
        return undefined
    }
  }
}

interface Definition {
  readonly type: string
  readonly checks?: Check[]
  readonly shape?: Record<string, z.ZodType>
  readonly element?: z.ZodType
  readonly keyType?: z.ZodType
  readonly valueType?: z.ZodType
  readonly items?: z.ZodType[]
  readonly options?: z.ZodType[]
  readonly innerType?: z.ZodType
  readonly values?: unknown[]
  readonly entries?: Record<string, unknown>
}

interface Check {
  readonly _zod: { readonly def: { readonly check: string; readonly [more: string]: unknown } }
}

interface Limits {
  minimum?: number
  maximum?: number
  length?: number
  pattern?: RegExp
  isWhole: boolean
}

/** What the checks of a schema say of its values. */
function limitsOf({ checks = [] }: Definition): Limits {
  const out: Limits = { isWhole: false }
  for (const { _zod } of checks) {
    const { check, value, minimum, maximum, length, pattern } = _zod.def
    if (check === 'greater_than') out.minimum = value as number
    else if (check === 'less_than') out.maximum = value as number
    else if (check === 'min_length') out.minimum = minimum as number
    else if (check === 'max_length') out.maximum = maximum as number
    else if (check === 'length_equals') out.length = length as number
    else if (check === 'string_format' && pattern) out.pattern = pattern as RegExp
    else if (check === 'number_format') out.isWhole = true
  }
  return out
}
