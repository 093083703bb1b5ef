/** Joint: drag a joint's middle to move its pivot, its rim to change its size; click where two parts overlap to join them. */
import { CircleDot } from 'lucide-react'
import type { Vec } from '@marionette/core/puppet/schema'
import { setJoint } from '@marionette/core/joints/commands'
import { joinParts, placedJoint, selectJoint } from './making'
import { beginGesture, cancelGesture, commitGesture, openPuppet, updateGesture } from '../../editor/document'
import { useSession } from '../../editor/session'
import { toScreen } from '../../stage/camera'
import { partsUnder } from '../../stage/pick'
import type { Tool, ToolHost } from '../../stage/tool'
import { caught } from '../touch/target'
import { edit } from '@marionette/core/kernel/command'
import type { Joint } from '@marionette/core/joints/records'
import { currentTheme } from '../../stage/theme'
import { editorState, type Editor } from '../../editor/editor'

type Spot = 'middle' | 'rim'
type State = { at: 'idle' } | { at: 'pointing' | 'dragging'; joint: Joint; spot: Spot; from: Vec }

interface Own {
  state: State
}

const stateOf = editorState((): Own => ({ state: { at: 'idle' } }))

const REACH = 9

/** The joint under the pointer; the selected one wins, then the smaller one. */
function jointAt(host: ToolHost, at: Vec): { joint: Joint; spot: Spot } | null {
  const selected = useSession.of(host.editor).getState().joint
  const reach = host.px(REACH)
  const hits = Object.values(openPuppet(host.editor).joints).flatMap((joint) => {
    const far = Math.hypot(at.x - joint.at.x, at.y - joint.at.y)
    const spot: Spot | null = far <= reach ? 'middle' : Math.abs(far - joint.radius) <= reach ? 'rim' : null
    return spot ? [{ joint, spot }] : []
  })
  return (
    hits.sort((a, b) => Number(b.joint.id === selected) - Number(a.joint.id === selected) || a.joint.radius - b.joint.radius)[0] ?? null
  )
}

const rounded = (v: number): number => Math.round(v * 10) / 10
const roundedSpot = ({ x, y }: Vec): Vec => ({ x: rounded(x), y: rounded(y) })

export const jointTool: Tool = {
  id: 'joint',
  name: 'Joint',
  icon: CircleDot,
  cursor: 'default',
  hint: [
    ['Click', 'where two parts overlap to join them'],
    ['drag the middle', 'to move the pivot'],
    ['the rim', 'to size it'],
  ],
  cursorAt(at, host) {
    const hit = jointAt(host, at)
    return hit ? (hit.spot === 'middle' ? 'move' : 'nwse-resize') : null
  },
  pointer(event, host) {
    const own = stateOf(host.editor)
    if (event.type === 'cancel') return this.cancel(host.editor)
    if (own.state.at === 'idle') {
      if (event.type === 'down') {
        const hit = jointAt(host, event.at)
        if (!hit) return
        selectJoint(host.editor, hit.joint.id)
        own.state = { at: 'pointing', ...hit, from: event.at }
      } else if (event.type === 'up' && !event.dragging) {
        const [over, under] = partsUnder(host, event.at)
        if (over && under && !isJoined(host.editor, over, under)) void joinParts(host.editor, under, over, event.at)
        else selectJoint(host.editor, null)
      }
      return
    }
    if (event.type === 'up') {
      if (own.state.at === 'dragging') commitGesture(host.editor)
      own.state = { at: 'idle' }
      return
    }
    if (!event.dragging) return
    if (own.state.at === 'pointing') {
      beginGesture(host.editor, own.state.spot === 'middle' ? 'Move joint' : 'Size joint')
      own.state = { ...own.state, at: 'dragging' }
    }
    const { joint, spot, from } = own.state
    const to =
      spot === 'middle'
        ? {
            at: roundedSpot(caught(host, { x: joint.at.x + event.at.x - from.x, y: joint.at.y + event.at.y - from.y }).at),
            radius: joint.radius,
          }
        : { at: joint.at, radius: Math.max(1, rounded(Math.hypot(event.at.x - joint.at.x, event.at.y - joint.at.y))) }
    const placing = edit(setJoint, { joint: joint.id, ...to })
    updateGesture(host.editor, placedJoint(openPuppet(host.editor), placing, { ...joint, ...to }))
  },
  draw(pen, host) {
    const { joint: selected } = useSession.of(host.editor).getState()
    const colours = currentTheme(host.editor)
    for (const joint of Object.values(openPuppet(host.editor).joints)) {
      const p = toScreen(host.camera, joint.at)
      const r = joint.radius * host.camera.zoom
      const isChosen = joint.id === selected
      pen.strokeStyle = colours.halo
      pen.lineWidth = 4
      pen.beginPath()
      pen.arc(p.x, p.y, r, 0, 2 * Math.PI)
      pen.stroke()
      pen.strokeStyle = isChosen ? colours.cord : colours.verdigris
      pen.lineWidth = isChosen ? 2 : 1.5
      pen.setLineDash(isChosen ? [] : [4, 4])
      pen.stroke()
      pen.setLineDash([])
      pen.beginPath()
      pen.arc(p.x, p.y, 3.5, 0, 2 * Math.PI)
      pen.fillStyle = pen.strokeStyle
      pen.fill()
    }
  },
  cancel(editor) {
    const own = stateOf(editor)
    if (own.state.at === 'dragging') cancelGesture(editor)
    own.state = { at: 'idle' }
  },
}

const isJoined = (editor: Editor, a: string, b: string): boolean =>
  Object.values(openPuppet(editor).joints).some((j) => [j.under, j.over].includes(a) && [j.under, j.over].includes(b))
