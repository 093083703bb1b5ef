/** Making controls: new ones, and ones for what is selected. */
import { channelOf } from '@marionette/core/puppet/channels'
import { freshId } from '@marionette/core/kernel/ids'
import type { Control, ControlKind } from '@marionette/core/puppet/schema'
import { addControl, rangeFor } from '@marionette/core/controls/commands'
import { ownerName } from '../responses/words'
import { openPuppet, perform } from '../../editor/document'
import { selectControl, useSession } from '../../editor/session'
import { edit } from '@marionette/core/kernel/command'
import { freeName } from '@marionette/core/kernel/freeName'
import { newControl } from '@marionette/core/controls/new'
import { partChannel } from '@marionette/core/parts/channels'
import type { Editor } from '../../editor/editor'
import { boneOf } from '@marionette/core/bones/lookup'
import { partOf } from '@marionette/core/parts/lookup'

const KIND_NAMES: Record<ControlKind, string> = { slider: 'Slider', dial: 'Dial', pad: 'Pad', toggle: 'Toggle', lever: 'Bone control' }

function add(editor: Editor, control: Control, label: string): void {
  if (!perform(editor, [edit(addControl, { control })], label)) return
  useSession.of(editor).setState({ shelfOpen: true, arranging: true })
  selectControl(editor, control.id)
}

/** Adds a control with nothing tied to it yet. */
export function makeControl(editor: Editor, kind: Exclude<ControlKind, 'lever'>): void {
  const name = freeName(openPuppet(editor).controls, KIND_NAMES[kind])
  add(editor, { ...newControl(freshId('control'), name, kind), colour: (openPuppet(editor).controls.length % 8) + 1 }, `Add ${name}`)
}

/** A lever: the bone itself, on the shelf. */
export function makeLever(editor: Editor, bone: string): void {
  const { name, colour } = boneOf(openPuppet(editor), bone)
  add(
    editor,
    { ...newControl(freshId('control'), freeName(openPuppet(editor).controls, name), 'lever', bone), colour },
    `Bone control for ${name}`,
  )
}

/** A slider that moves a channel over its range: what the limits allow, with its rest. */
export function controlFor(editor: Editor, address: string): void {
  const puppet = openPuppet(editor)
  const channel = channelOf(puppet, address)
  if (!channel) return
  const range = rangeFor(channelOf(puppet, address))
  const field = ['angle', 'value'].includes(channel.field) ? '' : ` ${channel.label.toLowerCase()}`
  const name = freeName(puppet.controls, `${ownerName(puppet, address)}${field}`)
  const kind = channel.kind === 'choice' ? 'toggle' : 'slider'
  add(
    editor,
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
export function padFor(editor: Editor, part: string): void {
  const { name } = partOf(openPuppet(editor), part)
  const control = newControl(freshId('control'), freeName(openPuppet(editor).controls, name), 'pad')
  const tie = (axis: 'x' | 'y', sign: number) => ({
    ...{ channel: partChannel(part, axis), axis, curve: null },
    from: [-1, 1] as [number, number],
    to: [-20 * sign, 20 * sign] as [number, number],
  })
  add(editor, { ...control, ties: [tie('x', 1), tie('y', -1)] }, `Pad for ${name}`)
}
