/**
 * Draw: drag to lay a bone, or a chain along a curve; it hangs from the selected one, goes on from its end, and becomes
 * the parent of the next.
 */
import { freshId } from '@marionette/core/kernel/ids'
import type { Puppet, Vec } from '@marionette/core/puppet/schema'
import { jointsAlong } from '@marionette/core/maths/geometry/polyline'
import { addBone } from '@marionette/core/bones/commands'
import { addChain } from '@marionette/core/skeleton/lines'
import { bonePoint } from '@marionette/core/puppet/probe'
import { openPuppet, perform } from '../../editor/document'
import { useDrawBones } from './drawBones'
import { selectBones, selectNothing, useSession } from '../../editor/session'
import { DrawBoneIcon } from '../../ui/icons'
import { toScreen } from '../../stage/camera'
import { boneAt } from '../../stage/pick'
import type { Tool, ToolHost } from '../../stage/tool'
import { caught } from '../touch/target'
import { edit } from '@marionette/core/kernel/command'
import { currentTheme } from '../../stage/theme'
import { editorState, type Editor } from '../../editor/editor'
import { nth } from '@marionette/core/kernel/sure'

type State = { at: 'idle' } | { at: 'pointing' | 'dragging'; parent: string | null; start: Vec; end: Vec; way: readonly Vec[] }

interface Own {
  state: State
}

const stateOf = editorState((): Own => ({ state: { at: 'idle' } }))

const SNAP = 12

const selectedBone = (editor: Editor): string | null => {
  const { selection } = useSession.of(editor).getState()
  return selection.kind === 'bone' ? (selection.ids[0] ?? null) : null
}

/** Where a new bone starts: on the end of a bone near the pointer, else where it was pressed. */
function startOf(host: ToolHost, at: Vec): { parent: string | null; start: Vec } {
  const { rig, frame } = host.model
  const chosen = selectedBone(host.editor)
  let best = host.px(SNAP)
  let found: { parent: string; start: Vec } | null = null
  rig.bones.ids.forEach((id, bone) => {
    const tip = bonePoint(frame, bone, 1)
    const distance = Math.hypot(tip.x - at.x, tip.y - at.y)
    if (distance < best || (id === chosen && distance <= best)) {
      best = distance
      found = { parent: id, start: tip }
    }
  })
  return found ?? { parent: chosen, start: at }
}

/** `Bone 7`: the first free number. */
function freeBoneName(puppet: Puppet): string {
  const names = new Set(Object.values(puppet.bones).map((b) => b.name))
  let n = names.size + 1
  while (names.has(`Bone ${n}`)) n++
  return `Bone ${n}`
}

/** `Chain`, `Chain B`: the first that no bone's name begins with. */
function freeChainName(puppet: Puppet): string {
  const names = Object.values(puppet.bones).map((b) => b.name)
  const letters = ['', ...'BCDEFGHIJKLMNOPQRSTUVWXYZ'].map((letter) => `Chain ${letter}`.trim())
  return letters.find((base) => !names.some((n) => n === base || new RegExp(`^${base} \\d+$`).test(n))) ?? 'Chain'
}

/** Lays a chain of bones along a drawn line, and selects its last bone so that the next goes on from there. */
function layChain(editor: Editor, way: readonly Vec[], parent: string | null): void {
  const ids = Array.from({ length: useDrawBones.of(editor).getState().count }, () => freshId('bone'))
  const name = freeChainName(openPuppet(editor))
  const args = { joints: jointsAlong(way, ids.length), ids, name, parent }
  if (perform(editor, [edit(addChain, args)], `Chain of ${ids.length} along a curve`)) selectBones(editor, nth(ids, -1))
}

export const drawBonesTool: Tool = {
  id: 'draw',
  name: 'Draw bones',
  icon: DrawBoneIcon,
  cursor: 'crosshair',
  hint: [
    ['Drag', 'to draw a bone'],
    ['start at a bead', 'to go on or branch'],
    ['click empty stage', 'to begin a new root'],
  ],
  watch: (editor, listener) => useDrawBones.of(editor).subscribe(listener),
  hintNow: (editor) =>
    useDrawBones.of(editor).getState().way === 'bone'
      ? null
      : [
          ['Drag', 'along a curve for a chain of bones'],
          ['start at a bead', 'to go on or branch'],
        ],
  pointer(event, host) {
    const own = stateOf(host.editor)
    if (event.type === 'cancel') return this.cancel(host.editor)
    if (event.type === 'down') {
      const from = startOf(host, event.at)
      own.state = { at: 'pointing', ...from, end: event.at, way: [from.start] }
      return
    }
    if (own.state.at === 'idle') return
    const next = caught(host, event.at).at
    own.state = { ...own.state, end: next, way: [...own.state.way, next], at: event.dragging ? 'dragging' : own.state.at }
    host.redraw()
    if (event.type !== 'up') return
    const { at, parent, start, end, way } = own.state
    own.state = { at: 'idle' }
    if (at === 'pointing') {
      const hit = boneAt(host, event.at)
      return hit ? selectBones(host.editor, hit.id) : selectNothing(host.editor)
    }
    if (useDrawBones.of(host.editor).getState().way === 'curve') return layChain(host.editor, way, parent)
    const id = freshId('bone')
    const round = (v: Vec): Vec => ({ x: Math.round(v.x * 10) / 10, y: Math.round(v.y * 10) / 10 })
    if (
      perform(host.editor, [
        edit(addBone, { id, name: freeBoneName(openPuppet(host.editor)), parent, start: round(start), end: round(end) }),
      ])
    )
      selectBones(host.editor, id)
  },
  draw(context, host) {
    const own = stateOf(host.editor)
    if (own.state.at !== 'dragging') return
    const a = toScreen(host.camera, own.state.start)
    const b = toScreen(host.camera, own.state.end)
    context.strokeStyle = currentTheme(host.editor).cord
    context.lineWidth = 2
    context.setLineDash([5, 4])
    context.beginPath()
    context.moveTo(a.x, a.y)
    if (useDrawBones.of(host.editor).getState().way === 'bone') context.lineTo(b.x, b.y)
    else for (const p of own.state.way.map((spot) => toScreen(host.camera, spot))) context.lineTo(p.x, p.y)
    context.stroke()
    context.setLineDash([])
    context.beginPath()
    context.arc(a.x, a.y, 5, 0, 2 * Math.PI)
    context.stroke()
  },
  cancel(editor) {
    const own = stateOf(editor)
    own.state = { at: 'idle' }
  },
}
