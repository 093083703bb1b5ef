/** On the stage: bodies that springs keep out of, and a ring in the colour of its group at the end of each bone that swings. */
import { bonePoint } from '@marionette/core/puppet/probe'
import { useSession } from '../../editor/session'
import { toScreen } from '../../stage/camera'
import type { Mark } from '../../stage/marks'
import { springsOfBone } from './making'

export const springMarks: Mark = {
  layer: 'bones',
  draw(editor, pen, camera, { rig, frame }, colours, showsBones) {
    if (!showsBones) return
    const { springs, colliders } = rig.puppet
    for (const { bones, colour, muted } of springs) {
      if (muted) continue
      pen.strokeStyle = colour
      pen.lineWidth = 2
      for (const id of bones) {
        const b = rig.bones.index.get(id)
        if (b === undefined) continue
        const { x, y } = toScreen(camera, bonePoint(frame, b, 1))
        pen.beginPath()
        pen.arc(x, y, 7, 0, 2 * Math.PI)
        pen.stroke()
      }
    }
    const { selection } = useSession.of(editor).getState()
    const [id = ''] = selection.kind === 'bone' ? selection.ids : []
    // Bodies show where they matter: at a bone that has one, and at bones that swing.
    const isAbout = springsOfBone(rig.puppet, id) !== undefined || colliders.some((c) => c.kind === 'capsule' && c.bone === id)
    if (!isAbout) return
    pen.setLineDash([4, 4])
    pen.lineWidth = 1.25
    pen.strokeStyle = colours.ink
    for (const collider of colliders) {
      if (collider.kind !== 'capsule') continue
      const b = rig.bones.index.get(collider.bone)
      if (b === undefined) continue
      const [from, to] = [toScreen(camera, bonePoint(frame, b, 0)), toScreen(camera, bonePoint(frame, b, 1))]
      const angle = Math.atan2(to.y - from.y, to.x - from.x)
      const radius = collider.radius * camera.zoom
      pen.beginPath()
      pen.arc(from.x, from.y, radius, angle + Math.PI / 2, angle - Math.PI / 2)
      pen.arc(to.x, to.y, radius, angle - Math.PI / 2, angle + Math.PI / 2)
      pen.closePath()
      pen.stroke()
    }
    pen.setLineDash([])
  },
}
