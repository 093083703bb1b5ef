/** Limits: drag the two ticks of the selected bone's arc. */
import { Gauge } from 'lucide-react'
import type { Vec } from '@marionette/core/puppet/schema'
import { setLimits } from '@marionette/core/bones/commands'
import { turnBetween } from '@marionette/core/maths/solve/reach'
import { beginGesture, cancelGesture, commitGesture, openPuppet, updateGesture } from '../../editor/document'
import { selectBones, selectNothing, useSession } from '../../editor/session'
import { LIMIT_RADIUS, limitTick } from '../../stage/overlay'
import { boneAt } from '../../stage/pick'
import type { Tool, ToolHost } from '../../stage/tool'
import { edit } from '@marionette/core/kernel/command'
import type { Limits } from '@marionette/core/bones/records'
import { editorState, type Editor } from '../../editor/editor'
import { boneOf } from '@marionette/core/bones/lookup'

type Side = 'min' | 'max'

interface Own {
  dragging: { bone: string; side: Side } | null
}

const stateOf = editorState((): Own => ({ dragging: null }))

const selectedBone = (editor: Editor): string | null => {
  const { selection } = useSession.of(editor).getState()
  return selection.kind === 'bone' ? (selection.ids[0] ?? null) : null
}

/** Widest limit offered when a side has none yet. */
const OPEN = { min: -170, max: 170 }

function tickAt(host: ToolHost, bone: string, at: Vec): Side | null {
  const { limits } = boneOf(openPuppet(host.editor), bone)
  for (const side of ['min', 'max'] as const) {
    const tick = limitTick(boneOf(openPuppet(host.editor), bone), limits[side] ?? OPEN[side], host.px(LIMIT_RADIUS))
    if (Math.hypot(tick.x - at.x, tick.y - at.y) < host.px(12)) return side
  }
  return null
}

export const limitsTool: Tool = {
  id: 'limits',
  name: 'Limits',
  icon: Gauge,
  cursor: 'default',
  hint: [
    ['Drag a tick', 'to limit the turn to that side'],
    ['past the half turn', 'to remove the limit'],
  ],
  cursorAt(at, host) {
    const bone = selectedBone(host.editor)
    return bone && tickAt(host, bone, at) ? 'grab' : null
  },
  pointer(event, host) {
    const own = stateOf(host.editor)
    if (event.type === 'cancel') return this.cancel(host.editor)
    const bone = selectedBone(host.editor)
    if (event.type === 'down') {
      const side = bone ? tickAt(host, bone, event.at) : null
      if (bone && side) {
        own.dragging = { bone, side }
        beginGesture(host.editor, `Limit ${boneOf(openPuppet(host.editor), bone).name}`)
        return
      }
      const hit = boneAt(host, event.at)
      return hit ? selectBones(host.editor, hit.id) : selectNothing(host.editor)
    }
    if (!own.dragging) return
    if (event.type === 'up') {
      commitGesture(host.editor)
      own.dragging = null
      return
    }
    const { start, end, limits } = boneOf(openPuppet(host.editor), own.dragging.bone)
    const turn = turnBetween({ x: end.x - start.x, y: end.y - start.y }, { x: event.at.x - start.x, y: event.at.y - start.y })
    updateGesture(host.editor, [edit(setLimits, { bone: own.dragging.bone, limits: withSide(limits, own.dragging.side, turn) })])
  },
  cancel(editor) {
    const own = stateOf(editor)
    if (own.dragging) cancelGesture(editor)
    own.dragging = null
  },
}

/** Limits with one side set; a side turned past 175° is taken as no limit, one on the wrong side of rest as rest. */
function withSide(limits: Limits, side: Side, turn: number): Limits {
  const outward = side === 'max' ? turn : -turn
  if (outward > 175 || outward < -90) return { ...limits, [side]: null }
  const value = Math.round(Math.max(0, outward))
  return { ...limits, [side]: side === 'max' ? value : -value || 0 }
}
