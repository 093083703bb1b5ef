/** Commands on what stands around a puppet. */
import { z } from 'zod'
import { command } from '../kernel/command'
import { EditError } from '../kernel/errors'
import { PartId } from '../kernel/ids'
import { Camera, Scenery, Shadow, StageSet } from './records'

/** Puts on a shadow, changes it, or takes it off. */
export const setShadow = command('staging.shadow', 'Change shadow', z.object({ shadow: Shadow.nullable() }), (puppet, { shadow }) => {
  puppet.shadow = shadow
})

/** Draws the ground line, moves it, or takes it away. */
export const setGround = command('staging.ground', 'Move ground line', StageSet.pick({ ground: true }), (puppet, { ground }) => {
  puppet.stage.ground = ground
})

/** Puts up a camera, changes how it rests, or takes it away. */
export const setCamera = command('staging.camera', 'Change camera', z.object({ camera: Camera.nullable() }), (puppet, { camera }) => {
  puppet.stage.camera = camera
})

/** Makes parts scenery, which stands still whatever the puppet does; or parts of the puppet again. */
export const setScenery = command(
  'staging.scenery',
  'Change scenery',
  z.object({ parts: z.array(PartId).min(1).max(500), where: Scenery.shape.where.nullable() }),
  (puppet, { parts, where }) => {
    for (const part of parts) {
      if (!puppet.parts[part]) throw new EditError(`There is no part "${part}" in this puppet.`)
      if (part === puppet.root) throw new EditError('All of the artwork cannot be scenery.')
    }
    const kept = puppet.stage.scenery.filter((s) => !parts.includes(s.part))
    puppet.stage.scenery = where === null ? kept : [...kept, ...parts.map((part) => ({ part, where }))]
  },
)
