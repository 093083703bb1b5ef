/** Showing, adding and taking away views of the open puppet. */
import type { Puppet } from '@marionette/core/puppet/schema'
import { viewValue } from '@marionette/core/views/views'
import { setPose } from '@marionette/core/poses/commands'
import { addView, deleteView } from '@marionette/core/views/commands'
import { openPuppet, perform } from '../../editor/document'
import { freeId, nextName } from './splitting'
import { edit, type Edit } from '@marionette/core/kernel/command'
import { viewChannel } from '@marionette/core/views/channels'
import type { Editor } from '../../editor/editor'
import { nth, sure } from '@marionette/core/kernel/sure'

const showEdit = (puppet: Puppet, view: string): Edit => edit(setPose, { values: { [viewChannel(puppet)]: viewValue(puppet, view) } })

export function showView(editor: Editor, view: string): void {
  const puppet = openPuppet(editor)
  if (view !== puppet.view) perform(editor, [showEdit(puppet, view)], `Show ${sure(puppet.views.find((v) => v.id === view)).name}`)
}

/** Shows the next view, or the one before. */
export function stepView(editor: Editor, by: 1 | -1): void {
  const { views, view } = openPuppet(editor)
  const at = views.findIndex((v) => v.id === view)
  showView(editor, nth(views, (at + by + views.length) % views.length).id)
}

/** Adds an empty view and shows it. */
export function makeView(editor: Editor): void {
  const puppet = openPuppet(editor)
  const name = nextName(
    puppet.views,
    puppet.views.map((v) => v.name),
  )
  const view = { id: freeId(puppet, [], name), name }
  perform(editor, [edit(addView, view), edit(setPose, { values: { [viewChannel(puppet)]: puppet.views.length } })], `Add view ${name}`)
}

/** Takes a view away; the one beside it is shown where it was the shown one. */
export function removeView(editor: Editor, view: string): void {
  const puppet = openPuppet(editor)
  const { name } = sure(puppet.views.find((v) => v.id === view))
  const beside = puppet.views.find((v) => v.id !== view)
  const first = view === puppet.view && beside ? [showEdit(puppet, beside.id)] : []
  perform(editor, [...first, edit(deleteView, { view })], `Delete view ${name}`)
}
