/** Weigh: paints the weights of the selected bone, in the present pose, with the result in sight. */
import { Brush as BrushIcon } from 'lucide-react'
import { WeightCanvas, type Brush } from '@marionette/core/binds/weightBrush'
import type { Vec } from '@marionette/core/puppet/schema'
import { setWeights } from '@marionette/core/binds/commands'
import { LiveWeights } from '@marionette/core/placement/liveWeights'
import { posedField, type Blended } from '@marionette/core/placement/posedWeights'
import { openPuppet, perform } from '../../editor/document'
import { selectBones, useSession } from '../../editor/session'
import { stageModel } from '../../editor/stageModel'
import { setPainted, useWeigh } from './brush'
import { toScreen } from '../../stage/camera'
import { boneAt, markHover, partsUnder } from '../../stage/pick'
import { brushStrength, radiusAfter, stepsTo } from '../../stage/stroke'
import type { Tool, ToolEvent, ToolHost } from '../../stage/tool'
import { drawWeightPoints, dropLasso, pickPoints } from './weighPoints'
import { edit } from '@marionette/core/kernel/command'
import { bindHolder } from '@marionette/core/binds/tree'
import { currentTheme } from '../../stage/theme'
import { editorState, type Editor } from '../../editor/editor'
import { sure } from '@marionette/core/kernel/sure'
import { boneOf } from '@marionette/core/bones/lookup'

interface Stroke {
  readonly part: string
  readonly bone: string
  readonly bind: Blended
  readonly canvas: WeightCanvas
  readonly live: LiveWeights
  readonly locked: Uint8Array
  last: Vec
  /** Of the pen at this moment. */
  pressure: ToolEvent['pressure']
}

interface Own {
  stroke: Stroke | null
  /** A press on another bone: a click selects it, a drag paints from there. */
  pressed: { bone: string; at: Vec } | null
  pointer: Vec | null
}

const stateOf = editorState((): Own => ({ stroke: null, pressed: null, pointer: null }))

/** Largest radius of the brush, canvas px. */
const WIDEST = 1000

const choosesPoints = (editor: Editor): boolean => useWeigh.of(editor).getState().way === 'points'

const selectedBone = (editor: Editor): string | undefined => {
  const { selection } = useSession.of(editor).getState()
  return selection.kind === 'bone' ? selection.ids[0] : undefined
}

/** The blended part under a spot in which a bone has a say; a part that does not know the bone is not it. */
function paintable(host: ToolHost, at: Vec, bone: string): { part: string; bind: Blended } | null {
  const puppet = openPuppet(host.editor)
  for (const id of partsUnder(host, at)) {
    const holder = bindHolder(puppet, id)
    if (holder?.bind?.kind === 'blended' && holder.bind.bones.includes(bone)) return { part: holder.id, bind: holder.bind }
  }
  return null
}

function begin(host: ToolHost, at: Vec, pressure: ToolEvent['pressure']): void {
  const own = stateOf(host.editor)
  const bone = selectedBone(host.editor)
  if (bone === undefined) return void host.editor.notify('Click a bone first, then paint where it should pull.')
  const found = paintable(host, at, bone)
  if (!found)
    return void host.editor.notify(`Nothing here bends with ${boneOf(openPuppet(host.editor), bone).name}. Bind the part smoothly first.`)
  const { rig, frame } = host.model
  const { part, bind } = found
  const canvas = new WeightCanvas(bind.field, bind.bones.length, posedField(rig, frame, sure(rig.parts.index.get(part)), bind))
  const locked = Uint8Array.from(bind.bones, (b) => Number(useWeigh.of(host.editor).getState().locked.has(b)))
  own.stroke = { part, bone, bind, canvas, live: new LiveWeights(rig, part, canvas), locked, last: at, pressure }
  setPainted(host.editor, part, canvas)
  dab(host, at)
}

function brushOf(editor: Editor, { bind, bone, pressure }: Stroke): Brush {
  const { mode, radius, strength, value, falloff } = useWeigh.of(editor).getState()
  return {
    mode,
    bone: bind.bones.indexOf(bone),
    radius,
    strength: brushStrength(strength, pressure),
    value: value / 100,
    falloff: falloff / 100,
  }
}

function dab(host: ToolHost, at: Vec): void {
  const own = stateOf(host.editor)
  if (!own.stroke) return
  const brush = brushOf(host.editor, own.stroke)
  own.stroke.live.update(own.stroke.canvas.dab(at.x, at.y, brush, own.stroke.locked))
  if (useWeigh.of(host.editor).getState().mirrored)
    own.stroke.live.update(own.stroke.canvas.dab(openPuppet(host.editor).canvas.width - at.x, at.y, brush, own.stroke.locked))
  own.stroke.last = at
  stageModel(host.editor).refresh()
  host.repaint()
}

/** Dabs along the way to a spot, a quarter of the radius apart. */
function dabTo(host: ToolHost, at: Vec): void {
  const own = stateOf(host.editor)
  if (!own.stroke) return
  for (const spot of stepsTo(own.stroke.last, at, useWeigh.of(host.editor).getState().radius / 4)) dab(host, spot)
}

const POINTS_HINT: Tool['hint'] = [
  ['Drag', 'around points to choose them'],
  ['Shift', 'adds'],
  ['Alt', 'takes out'],
  ['the table', 'at the right shows their weights'],
]

export const weighTool: Tool = {
  id: 'weigh',
  name: 'Weigh',
  words: 'weights skinning brush',
  icon: BrushIcon,
  cursor: 'crosshair',
  hint: [
    ['Click a bone,', 'then paint where it pulls'],
    ['[ and ]', 'change the brush'],
  ],
  watch: (editor, listener) => useWeigh.of(editor).subscribe(listener),
  hintNow: (editor) => (choosesPoints(editor) ? POINTS_HINT : null),
  pointer(event, host) {
    const own = stateOf(host.editor)
    if (event.type === 'cancel') return this.cancel(host.editor)
    own.pointer = event.at
    if (event.type === 'hover') {
      markHover(host.editor, 'bone', boneAt(host, event.at)?.id)
      return host.redraw()
    }
    if (event.type === 'down') {
      const hit = boneAt(host, event.at)
      own.pressed = hit && hit.id !== selectedBone(host.editor) ? { bone: hit.id, at: event.at } : null
      if (own.pressed) return
      return choosesPoints(host.editor) ? pickPoints(event, host) : begin(host, event.at, event.pressure)
    }
    if (event.type === 'move' && own.pressed && event.dragging) {
      if (choosesPoints(host.editor)) pickPoints({ ...event, type: 'down', at: own.pressed.at }, host)
      else begin(host, own.pressed.at, event.pressure)
      own.pressed = null
    }
    if (!own.pressed && choosesPoints(host.editor)) return pickPoints(event, host)
    if (event.type === 'move') {
      if (own.stroke) own.stroke.pressure = event.pressure
      dabTo(host, event.at)
    }
    if (event.type === 'up' && own.pressed) {
      selectBones(host.editor, own.pressed.bone)
      own.pressed = null
      return
    }
    if (event.type === 'up' && own.stroke) {
      const { part, bone, canvas, live } = own.stroke
      live.restore()
      own.stroke = null
      setPainted(host.editor, null, null)
      perform(
        host.editor,
        [edit(setWeights, { part, field: canvas.toField() })],
        `Paint weights of ${boneOf(openPuppet(host.editor), bone).name}`,
      )
    }
  },
  key(key, host) {
    const radius = radiusAfter(key, useWeigh.of(host.editor).getState().radius, WIDEST)
    if (radius === null || choosesPoints(host.editor)) return false
    useWeigh.of(host.editor).setState({ radius })
    host.redraw()
    return true
  },
  draw(pen, host) {
    const own = stateOf(host.editor)
    if (choosesPoints(host.editor)) return drawWeightPoints(pen, host)
    if (!own.pointer) return
    const p = toScreen(host.camera, own.pointer)
    const { radius, falloff } = useWeigh.of(host.editor).getState()
    pen.strokeStyle = currentTheme(host.editor).cord
    pen.lineWidth = 1.25
    for (const [share, dash] of [
      [1, []],
      [1 - falloff / 100, [3, 3]],
    ] as const) {
      pen.beginPath()
      pen.setLineDash([...dash])
      pen.arc(p.x, p.y, radius * share * host.camera.zoom, 0, 2 * Math.PI)
      pen.stroke()
    }
    pen.setLineDash([])
  },
  leave(editor) {
    const own = stateOf(editor)
    own.pointer = null
  },
  cancel(editor) {
    const own = stateOf(editor)
    own.pressed = null
    dropLasso(editor)
    if (!own.stroke) return
    own.stroke.live.restore()
    own.stroke = null
    setPainted(editor, null, null)
    stageModel(editor).refresh()
  },
}
