/** Making controls: new ones, and ones for what is selected. */
import { channelOf, partChannel } from '@marionette/core/document/channels'
import { freshId } from '@marionette/core/document/ids'
import { newControl } from '@marionette/core/document/new'
import type { Control, ControlKind, Puppet } from '@marionette/core/document/schema'
import { edit } from '@marionette/core/edit/command'
import { addControl, rangeFor } from '@marionette/core/edit/controls'
import { ownerName } from '../responses/words'
import { openPuppet, perform } from '../state/document'
import { selectControl, useSession } from '../state/session'

const KIND_NAMES: Record<ControlKind, string> = { slider: 'Slider', dial: 'Dial', pad: 'Pad', toggle: 'Toggle', lever: 'Lever' }

/** A name that no control has yet. */
function freeName({ controls }: Puppet, base: string): string {
  const names = new Set(controls.map((c) => c.name))
  for (let n = 1; ; n++) {
    const name = n === 1 ? base : `${base} ${n}`
    if (!names.has(name)) return name
  }
}

function add(control: Control, label: string): void {
  if (!perform([edit(addControl, { control })], label)) return
  useSession.setState({ shelfOpen: true, arranging: true })
  selectControl(control.id)
}

/** Adds a control with nothing tied to it yet. */
export function makeControl(kind: Exclude<ControlKind, 'lever'>): void {
  const name = freeName(openPuppet(), KIND_NAMES[kind])
  add({ ...newControl(freshId('control'), name, kind), colour: (openPuppet().controls.length % 8) + 1 }, `Add ${name}`)
}

/** A lever: the bone itself, on the shelf. */
export function makeLever(bone: string): void {
  const { name, colour } = openPuppet().bones[bone]!
  add({ ...newControl(freshId('control'), freeName(openPuppet(), name), 'lever', bone), colour }, `Lever for ${name}`)
}

/** A slider that moves a channel over its range: what the limits allow, with its rest. */
export function controlFor(address: string): void {
  const puppet = openPuppet()
  const channel = channelOf(puppet, address)
  if (!channel) return
  const range = rangeFor(puppet, address)
  const field = ['angle', 'value'].includes(channel.field) ? '' : ` ${channel.label.toLowerCase()}`
  const name = freeName(puppet, `${ownerName(puppet, address)}${field}`)
  const kind = channel.kind === 'choice' ? 'toggle' : 'slider'
  add(
    {
      ...newControl(freshId('control'), name, kind),
      range,
      step: channel.kind === 'choice' ? 1 : 0,
      ties: [{ channel: address, axis: 'value', from: [range.min, range.max], to: [range.min, range.max], curve: null }],
    },
    `Control for ${name}`,
  )
}

/** A pad that moves a part right and up. */
export function padFor(part: string): void {
  const { name } = openPuppet().parts[part]!
  const control = newControl(freshId('control'), freeName(openPuppet(), name), 'pad')
  const tie = (axis: 'x' | 'y', sign: number) => ({
    ...{ channel: partChannel(part, axis), axis, curve: null },
    from: [-1, 1] as [number, number],
    to: [-20 * sign, 20 * sign] as [number, number],
  })
  add({ ...control, ties: [tie('x', 1), tie('y', -1)] }, `Pad for ${name}`)
}
