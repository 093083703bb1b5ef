/**
 * Channels: everything that can be posed. Each has an address (`family/id/field`), and a capability says in a family what its
 * things can be posed by: how values combine, where they rest, and how far they go. Several capabilities may add fields to one
 * family, as masks and alternates do to parts.
 */
import type { Puppet } from '../puppet/schema'

/** How values of a channel combine: they add, turn, multiply, or one of them is chosen. */
export type ChannelKind = 'scalar' | 'angle' | 'scale' | 'choice'

/** A field of a family, as it is where nothing sets it otherwise. */
export interface FieldSpec {
  readonly kind: ChannelKind
  readonly rest: number
  readonly label: string
  readonly unit: string
  readonly min?: number
  readonly max?: number
}

/** Anything that has channels. */
export interface Named {
  readonly id: string
  readonly name: string
}

/** What a puppet says of a channel besides its family: limits, and rest where it is set in the document. */
export interface OwnChannel {
  readonly min?: number | null | undefined
  readonly max?: number | null | undefined
  readonly rest?: number | undefined
}

/** What things of one family can be posed by. Methods, so that families of all kinds of things stand in one list. */
export interface ChannelFamily<R extends Named = Named> {
  readonly family: string
  /** In the order in which a rig stores them. */
  readonly fields: Readonly<Record<string, FieldSpec>>
  /** Whether it moves something; a rig has no place for what does not, like the view. */
  readonly moves: boolean
  /** All that are there, in the order in which a rig stores them. */
  records(puppet: Puppet): readonly R[]
  /** What has an id; undefined where nothing does. */
  find(puppet: Puppet, id: string): R | undefined
  /** Whether a thing answers to a field; everything does where this is left out. */
  has?(record: R, field: string): boolean
  own?(record: R, field: string, puppet: Puppet): OwnChannel
  /** What is on the other side of a thing; where this is left out nothing has another side. */
  other?(puppet: Puppet, id: string): string
  /** Whether values of a field go the other way there; none do where this is left out. */
  turns?(puppet: Puppet, id: string, field: string): boolean
}

/** What an address means in a puppet. */
export interface Channel {
  readonly address: string
  readonly family: string
  readonly id: string
  readonly field: string
  readonly kind: ChannelKind
  readonly rest: number
  readonly label: string
  readonly unit: string
  readonly min: number
  readonly max: number
}

/** Fields of whatever can be moved. */
export const MOVED = {
  x: { kind: 'scalar', rest: 0, label: 'Moved x', unit: 'px' },
  y: { kind: 'scalar', rest: 0, label: 'Moved y', unit: 'px' },
} as const satisfies Record<string, FieldSpec>
/** The field of whatever can be turned besides its own angle. */
export const TURNED = { kind: 'angle', rest: 0, label: 'Turned', unit: '°' } as const satisfies FieldSpec

/** The address of a field. */
export const channelAddress = (family: string, id: string, field: string): string => `${family}/${id}/${field}`

/** A value brought inside a channel's limits; a choice is a whole number. */
export const clampTo = ({ min, max, kind }: Pick<Channel, 'min' | 'max' | 'kind'>, value: number): number =>
  Math.min(max, Math.max(min, kind === 'choice' ? Math.round(value) : value))

/** The record filed under an id, and not what every object has by birth. */
export const filed = <T>(records: Readonly<Record<string, T>>, id: string): T | undefined =>
  Object.hasOwn(records, id) ? records[id] : undefined
