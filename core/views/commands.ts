/** Commands on views: the sides from which a puppet is drawn. Which one is shown is a channel of the pose. */
import { z } from 'zod'
import { viewChannel } from './channels'
import { DrawingId, PartId, PictureId, ViewId } from '../kernel/ids'
import type { Puppet } from '../puppet/schema'
import { viewValue } from './views'
import { partOf } from '../parts/lookup'
import { dropUnusedArt } from '../parts/commands'
import { command } from '../kernel/command'
import { EditError } from '../kernel/errors'
import { View } from './records'
import { drawingBy, pictureBy } from '../artwork/art'

function viewOf(puppet: Puppet, id: string): View {
  const view = puppet.views.find((v) => v.id === id)
  if (!view) throw new EditError(`There is no view "${id}" in this puppet.`)
  return view
}

function refuseTaken(puppet: Puppet, name: string, but?: string): void {
  if (puppet.views.some((v) => v.id !== but && v.name.toLowerCase() === name.toLowerCase()))
    throw new EditError(`There is already a view "${name}".`)
}

/** Files a view after the others. */
export function fileView(puppet: Puppet, view: View): void {
  if (puppet.views.some((v) => v.id === view.id)) throw new EditError(`There is already a view with the id "${view.id}".`)
  refuseTaken(puppet, view.name)
  puppet.views.push(view)
}

/** Adds a view after the others. Parts show nothing in it yet. */
export const addView = command('view.add', 'Add view', View, fileView)

/** Renames a view. */
export const renameView = command('view.rename', 'Rename view', View, (puppet, { id, name }) => {
  const view = viewOf(puppet, id)
  refuseTaken(puppet, name, id)
  view.name = name
})

/** Takes a view that is not shown away, with what parts show in it alone. */
export const deleteView = command('view.delete', 'Delete view', z.object({ view: ViewId }), (puppet, { view }) => {
  viewOf(puppet, view)
  if (puppet.views.length === 1) throw new EditError('A puppet needs at least one view.')
  if (puppet.view === view) throw new EditError('The view that is shown cannot be deleted; show another one first.')
  puppet.views = puppet.views.filter((v) => v.id !== view)
  const value = viewValue(puppet, puppet.view)
  if (value === 0) delete puppet.pose[viewChannel(puppet)]
  else puppet.pose[viewChannel(puppet)] = value
  const gone: string[] = []
  for (const part of Object.values(puppet.parts)) {
    gone.push(...(part.art[view] === undefined ? [] : [part.art[view]]))
    delete part.art[view]
  }
  dropUnusedArt(puppet, gone)
})

/** Changes what a part shows in a view: artwork that is there already, or nothing. */
export const setViewArt = command(
  'view.art',
  'Change what a view shows',
  z.object({ part: PartId, view: ViewId, art: z.union([DrawingId, PictureId]).nullable() }),
  (puppet, { part, view, art }) => {
    const known = partOf(puppet, part)
    viewOf(puppet, view)
    const before = known.art[view]
    if (art === null) delete known.art[view]
    else if ((known.content.kind === 'picture' ? pictureBy : drawingBy)(puppet, art) && known.content.kind !== 'group')
      known.art[view] = art
    else throw new EditError(`There is no artwork "${art}" for "${known.name}".`)
    if (before !== undefined) dropUnusedArt(puppet, [before])
  },
)
