/** Showing, adding and taking away views of the open puppet. */
import { viewChannel } from '@marionette/core/document/channels'
import type { Puppet } from '@marionette/core/document/schema'
import { viewValue } from '@marionette/core/document/views'
import { edit, type Edit } from '@marionette/core/edit/command'
import { setPose } from '@marionette/core/edit/pose'
import { addView, deleteView } from '@marionette/core/edit/views'
import { openPuppet, perform } from '../state/document'
import { freeId, nextName } from './splitting'

const showEdit = (puppet: Puppet, view: string): Edit => edit(setPose, { values: { [viewChannel(puppet)]: viewValue(puppet, view) } })

export function showView(view: string): void {
  const puppet = openPuppet()
  if (view !== puppet.view) perform([showEdit(puppet, view)], `Show ${puppet.views.find((v) => v.id === view)!.name}`)
}

/** Shows the next view, or the one before. */
export function stepView(by: 1 | -1): void {
  const { views, view } = openPuppet()
  const at = views.findIndex((v) => v.id === view)
  showView(views[(at + by + views.length) % views.length]!.id)
}

/** Adds an empty view and shows it. */
export function makeView(): void {
  const puppet = openPuppet()
  const name = nextName(
    puppet.views,
    puppet.views.map((v) => v.name),
  )
  const view = { id: freeId(puppet, [], name), name }
  perform([edit(addView, view), edit(setPose, { values: { [viewChannel(puppet)]: puppet.views.length } })], `Add view ${name}`)
}

/** Takes a view away; the one beside it is shown where it was the shown one. */
export function removeView(view: string): void {
  const puppet = openPuppet()
  const { name } = puppet.views.find((v) => v.id === view)!
  const beside = puppet.views.find((v) => v.id !== view)
  const first = view === puppet.view && beside ? [showEdit(puppet, beside.id)] : []
  perform([...first, edit(deleteView, { view })], `Delete view ${name}`)
}
