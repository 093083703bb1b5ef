/** Commands on joints: where two parts meet and turn. */
import { z } from 'zod'
import { size, Vec } from '../kernel/numbers'
import { JointId } from '../kernel/ids'
import { Drawing, Picture } from '../artwork/records'
import type { Puppet } from '../puppet/schema'
import { isWithinPart } from '../parts/tree'
import { partOf } from '../parts/lookup'
import { command } from '../kernel/command'
import { EditError } from '../kernel/errors'
import { Joint } from './records'

function jointOf(puppet: Puppet, id: string): Joint {
  const joint = puppet.joints[id]
  if (!joint) throw new EditError(`There is no joint "${id}" in this puppet.`)
  return joint
}

/** Adds a joint. Refused where a part is not there, one lies in the other, or the two are joined already. */
export const addJoint = command('joint.add', 'Make joint', Joint.omit({ inViews: true }), (puppet, joint) => {
  const [under, over] = [partOf(puppet, joint.under), partOf(puppet, joint.over)]
  if (puppet.joints[joint.id]) throw new EditError(`There is already a joint "${joint.id}".`)
  if (isWithinPart(puppet, under.id, over.id) || isWithinPart(puppet, over.id, under.id))
    throw new EditError(`"${under.name}" and "${over.name}" lie in each other; a joint is between two parts side by side.`)
  const isSame = (j: Joint): boolean => [j.under, j.over].includes(under.id) && [j.under, j.over].includes(over.id)
  if (Object.values(puppet.joints).some(isSame)) throw new EditError(`"${under.name}" and "${over.name}" are joined already.`)
  puppet.joints[joint.id] = { ...joint, inViews: {} }
})

/** Moves a joint's disc, or changes its size. */
export const setJoint = command(
  'joint.set',
  'Move joint',
  z.object({ joint: JointId, at: Vec, radius: size }),
  (puppet, { joint, at, radius }) => {
    const known = jointOf(puppet, joint)
    known.at = at
    known.radius = radius
  },
)

/** Changes which of the two is meant to cover the other. */
export const swapJoint = command('joint.swap', 'Swap upper and lower', z.object({ joint: JointId }), (puppet, { joint }) => {
  const known = jointOf(puppet, joint)
  ;[known.under, known.over] = [known.over, known.under]
})

/** Deletes a joint; artwork that was made for it stays. Refused where there is none with this id. */
export const deleteJoint = command('joint.delete', 'Delete joint', z.object({ joint: JointId }), (puppet, { joint }) => {
  jointOf(puppet, joint)
  delete puppet.joints[joint]
})

/** Puts artwork in the place of what has the same id: all parts that share it, twins among them, show the new one. */
export const changeArt = command(
  'art.change',
  'Change artwork',
  z.object({ drawings: z.array(Drawing), pictures: z.array(Picture) }),
  (puppet, { drawings, pictures }) => {
    for (const drawing of drawings) {
      if (!puppet.drawings[drawing.id]) throw new EditError(`There is no drawing "${drawing.id}" in this puppet.`)
      puppet.drawings[drawing.id] = drawing
    }
    for (const picture of pictures) {
      if (!puppet.pictures[picture.id]) throw new EditError(`There is no picture "${picture.id}" in this puppet.`)
      puppet.pictures[picture.id] = picture
    }
  },
)
