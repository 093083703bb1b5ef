/** What inputs, stops and changes are called. */
import { counted } from '@marionette/core/kernel/counted'
import { channelOf } from '@marionette/core/puppet/channels'
import { handleName, handlesOf, type Change, type Input, type InputSpot, type Puppet, type Response } from '@marionette/core/puppet/schema'
import { deformersInViews } from '@marionette/core/deformers/stack'
import { nth, recordOf } from '@marionette/core/kernel/sure'

/** The name of what has a channel. */
export function ownerName(puppet: Puppet, address: string): string {
  const [family, id = ''] = address.split('/')
  if (family === 'bone') return puppet.bones[id]?.name ?? id
  if (family === 'part') return puppet.parts[id]?.name ?? id
  if (family === 'control') return puppet.controls.find((c) => c.id === id)?.name ?? id
  if (family === 'target') return puppet.targets[id]?.name ?? id
  if (family === 'constraint') return puppet.constraints.find((c) => c.id === id)?.name ?? id
  const all = Object.values(puppet.parts).flatMap((part) => deformersInViews(part).map((d) => ({ part, d })))
  if (family === 'deformer') return all.find(({ d }) => d.id === id)?.d.name ?? id
  const found = all.find(({ d }) => handlesOf(d).includes(id))
  return found ? `${found.part.name}, ${handleName(found.d, handlesOf(found.d).indexOf(id))}` : id
}

const spotName = (puppet: Puppet, spot: InputSpot): string =>
  'bone' in spot ? (puppet.bones[spot.bone]?.name ?? '') : (puppet.targets[spot.target]?.name ?? '')

/** A short name for an input. */
export function inputWords(puppet: Puppet, input: Input): string {
  if (input.kind === 'channel') {
    const channel = channelOf(puppet, input.channel)
    const name = ownerName(puppet, input.channel)
    if (!channel || channel.field === 'angle' || channel.field === 'value') return name
    return `${name} ${channel.label.toLowerCase()}`
  }
  if (input.kind === 'speed') return `Speed of ${puppet.bones[input.bone]?.name ?? ''}`
  const between = `${spotName(puppet, input.from)} to ${spotName(puppet, input.to)}`
  return input.kind === 'distance' ? `Distance ${between}` : `Direction ${between}`
}

/** The unit of an input's values. */
export function inputUnit(puppet: Puppet, input: Input): string {
  if (input.kind === 'channel') return channelOf(puppet, input.channel)?.unit ?? ''
  return input.kind === 'distance' ? ' px' : input.kind === 'direction' ? '°' : '°/s'
}

export const shortNumber = (v: number): string => String(Math.abs(v) < 10 ? Math.round(v * 100) / 100 : Math.round(v * 10) / 10)

/** Where a stop is, in words: `95°`, `0.5, -1`. */
export const stopWords = (puppet: Puppet, { inputs }: Response, at: readonly number[]): string =>
  at.map((v, k) => `${shortNumber(v)}${inputUnit(puppet, nth(inputs, k))}`).join(', ')

const signed = (v: number): string => `${v > 0 ? '+' : ''}${shortNumber(v)}`

export interface ChangeWords {
  readonly name: string
  readonly what: string
  /** The part or bone whose picture stands for it. */
  readonly picture: { readonly kind: 'part' | 'bone'; readonly id: string } | null
}

/** What a change does, in words. */
export function changeWords(puppet: Puppet, change: Change): ChangeWords {
  if (change.kind === 'channel' || change.kind === 'choice') return channelWords(puppet, change)
  const name = puppet.parts[change.part]?.name ?? ''
  const picture = { kind: 'part', id: change.part } as const
  if (change.kind === 'points') {
    const n = change.ids.length
    return { name, what: `${counted(n, 'point')} moved`, picture }
  }
  if (change.kind === 'width') return { name, what: `Line ${Math.round(change.by * 100)}% as wide`, picture }
  return { name, what: `${change.of === 'ink' ? 'Fill' : 'Line'} ${change.to}`, picture }
}

function channelWords(puppet: Puppet, change: Extract<Change, { kind: 'channel' | 'choice' }>): ChangeWords {
  const channel = channelOf(puppet, change.channel)
  const name = ownerName(puppet, change.channel)
  const [family, id = ''] = change.channel.split('/')
  const picture = family === 'part' || family === 'bone' ? ({ kind: family, id } as const) : null
  if (!channel) return { name, what: 'Gone', picture }
  if (change.kind === 'choice' && channel.field === 'alternate') return { name, what: alternateWords(puppet, id, change.to), picture }
  if (change.kind === 'choice') return { name, what: choiceWords(channel.field, channel.label, change.to), picture }
  if (channel.kind === 'scale') return { name, what: `${channel.label} ${Math.round(change.by * 100)}%`, picture }
  if (channel.kind === 'angle') return { name, what: `Turned ${signed(change.by)}°`, picture }
  return { name, what: `${channel.label} ${signed(change.by)}${channel.unit}`, picture }
}

function alternateWords({ parts }: Puppet, swap: string, number: number): string {
  const found = parts[swap]?.children.find((id) => parts[id]?.alternate === number)
  return found ? `Now ${recordOf(parts, found).name}` : 'Shows nothing'
}

function choiceWords(field: string, label: string, to: number): string {
  if (field === 'shown') return to ? 'Shown' : 'Hidden'
  if (field === 'masked') return to ? 'Masked' : 'Not masked'
  if (field === 'order') return to > 0 ? `${to} to the front` : `${-to} to the back`
  return `${label} ${to}`
}
