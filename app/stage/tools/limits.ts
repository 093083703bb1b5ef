/** Limits: drag the two ticks of the selected bone's arc. */
import { Gauge } from 'lucide-react'
import type { Limits, Vec } from '@marionette/core/document/schema'
import { setLimits } from '@marionette/core/edit/bones'
import { edit } from '@marionette/core/edit/command'
import { turnBetween } from '@marionette/core/solve/reach'
import { beginGesture, cancelGesture, commitGesture, openPuppet, updateGesture } from '../../state/document'
import { selectBones, selectNothing, useSession } from '../../state/session'
import { LIMIT_RADIUS, limitTick } from '../overlay'
import { boneAt } from './pick'
import type { Tool, ToolHost } from './tool'

type Side = 'min' | 'max'

let dragging: { bone: string; side: Side } | null = null

const selectedBone = (): string | null => {
  const { selection } = useSession.getState()
  return selection.kind === 'bone' ? (selection.ids[0] ?? null) : null
}

/** Widest limit offered when a side has none yet. */
const OPEN = { min: -170, max: 170 }

function tickAt(host: ToolHost, bone: string, at: Vec): Side | null {
  const { limits } = openPuppet().bones[bone]!
  for (const side of ['min', 'max'] as const) {
    const tick = limitTick(openPuppet().bones[bone]!, limits[side] ?? OPEN[side], host.px(LIMIT_RADIUS))
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
    ['past the half turn', 'to take the limit away'],
  ],
  cursorAt(at, host) {
    const bone = selectedBone()
    return bone && tickAt(host, bone, at) ? 'grab' : null
  },
  pointer(event, host) {
    if (event.type === 'cancel') return this.cancel()
    const bone = selectedBone()
    if (event.type === 'down') {
      const side = bone ? tickAt(host, bone, event.at) : null
      if (bone && side) {
        dragging = { bone, side }
        beginGesture(`Limit ${openPuppet().bones[bone]!.name}`)
        return
      }
      const hit = boneAt(host, event.at)
      return hit ? selectBones(hit.id) : selectNothing()
    }
    if (!dragging) return
    if (event.type === 'up') {
      commitGesture()
      dragging = null
      return
    }
    const { start, end, limits } = openPuppet().bones[dragging.bone]!
    const turn = turnBetween({ x: end.x - start.x, y: end.y - start.y }, { x: event.at.x - start.x, y: event.at.y - start.y })
    updateGesture([edit(setLimits, { bone: dragging.bone, limits: withSide(limits, dragging.side, turn) })])
  },
  cancel() {
    if (dragging) cancelGesture()
    dragging = null
  },
}

/** Limits with one side set; a side turned past 175° is taken as no limit, one on the wrong side of rest as rest. */
function withSide(limits: Limits, side: Side, turn: number): Limits {
  const outward = side === 'max' ? turn : -turn
  if (outward > 175 || outward < -90) return { ...limits, [side]: null }
  const value = Math.round(Math.max(0, outward))
  return { ...limits, [side]: side === 'max' ? value : -value || 0 }
}
