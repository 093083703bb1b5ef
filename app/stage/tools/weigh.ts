/** Weigh: paints the weights of the selected bone, in the present pose, with the result in sight. */
import { Brush as BrushIcon } from 'lucide-react'
import { toast } from 'sonner'
import { WeightCanvas, type Brush } from '@marionette/core/artwork/weightBrush'
import type { Vec } from '@marionette/core/document/schema'
import { bindHolder } from '@marionette/core/document/tree'
import { setWeights } from '@marionette/core/edit/binds'
import { edit } from '@marionette/core/edit/command'
import { LiveWeights } from '@marionette/core/rig/liveWeights'
import { posedField, type Blended } from '@marionette/core/rig/weights'
import { openPuppet, perform } from '../../state/document'
import { selectBones, useSession } from '../../state/session'
import { stageModel } from '../../state/stageModel'
import { setPainted, useWeigh } from '../../state/weigh'
import { toScreen } from '../camera'
import { currentTheme } from '../overlay'
import { boneAt, markHover, partsUnder } from './pick'
import { radiusAfter, stepsTo } from './stroke'
import type { Tool, ToolHost } from './tool'
import { drawWeightPoints, dropLasso, pickPoints } from './weighPoints'

interface Stroke {
  readonly part: string
  readonly bone: string
  readonly bind: Blended
  readonly canvas: WeightCanvas
  readonly live: LiveWeights
  readonly locked: Uint8Array
  last: Vec
}

let stroke: Stroke | null = null
/** A press on another bone: a click selects it, a drag paints from there. */
let pressed: { bone: string; at: Vec } | null = null
let pointer: Vec | null = null

/** Largest radius of the brush, canvas px. */
const WIDEST = 1000

const choosesPoints = (): boolean => useWeigh.getState().way === 'points'

const selectedBone = (): string | undefined => {
  const { selection } = useSession.getState()
  return selection.kind === 'bone' ? selection.ids[0] : undefined
}

/** The blended part under a spot in which a bone has a say; a part that does not know the bone is not it. */
function paintable(host: ToolHost, at: Vec, bone: string): { part: string; bind: Blended } | null {
  const puppet = openPuppet()
  for (const id of partsUnder(host, at)) {
    const holder = bindHolder(puppet, id)
    if (holder?.bind?.kind === 'blended' && holder.bind.bones.includes(bone)) return { part: holder.id, bind: holder.bind }
  }
  return null
}

function begin(host: ToolHost, at: Vec): void {
  const bone = selectedBone()
  if (bone === undefined) return void toast('Click a bone first, then paint where it should pull.')
  const found = paintable(host, at, bone)
  if (!found) return void toast(`Nothing here bends with ${openPuppet().bones[bone]!.name}. Bind the part blended first.`)
  const { rig, frame } = host.model
  const { part, bind } = found
  const canvas = new WeightCanvas(bind.field, bind.bones.length, posedField(rig, frame, rig.parts.index.get(part)!, bind))
  const locked = Uint8Array.from(bind.bones, (b) => Number(useWeigh.getState().locked.has(b)))
  stroke = { part, bone, bind, canvas, live: new LiveWeights(rig, part, canvas), locked, last: at }
  setPainted(part, canvas)
  dab(host, at)
}

function brushOf({ bind, bone }: Stroke): Brush {
  const { mode, radius, strength, value, falloff } = useWeigh.getState()
  return { mode, bone: bind.bones.indexOf(bone), radius, strength: strength / 100, value: value / 100, falloff: falloff / 100 }
}

function dab(host: ToolHost, at: Vec): void {
  if (!stroke) return
  const brush = brushOf(stroke)
  stroke.live.update(stroke.canvas.dab(at.x, at.y, brush, stroke.locked))
  if (useWeigh.getState().mirrored) stroke.live.update(stroke.canvas.dab(openPuppet().canvas.width - at.x, at.y, brush, stroke.locked))
  stroke.last = at
  stageModel.refresh()
  host.repaint()
}

/** Dabs along the way to a spot, a quarter of the radius apart. */
function dabTo(host: ToolHost, at: Vec): void {
  if (!stroke) return
  for (const spot of stepsTo(stroke.last, at, useWeigh.getState().radius / 4)) dab(host, spot)
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
  icon: BrushIcon,
  cursor: 'crosshair',
  hint: [
    ['Click a bone,', 'then paint where it pulls'],
    ['[ and ]', 'change the brush'],
  ],
  hintNow: () => (choosesPoints() ? POINTS_HINT : null),
  pointer(event, host) {
    if (event.type === 'cancel') return this.cancel()
    pointer = event.at
    if (event.type === 'hover') {
      markHover('bone', boneAt(host, event.at)?.id)
      return host.redraw()
    }
    if (event.type === 'down') {
      const hit = boneAt(host, event.at)
      pressed = hit && hit.id !== selectedBone() ? { bone: hit.id, at: event.at } : null
      if (pressed) return
      return choosesPoints() ? pickPoints(event, host) : begin(host, event.at)
    }
    if (event.type === 'move' && pressed && event.dragging) {
      if (choosesPoints()) pickPoints({ ...event, type: 'down', at: pressed.at }, host)
      else begin(host, pressed.at)
      pressed = null
    }
    if (!pressed && choosesPoints()) return pickPoints(event, host)
    if (event.type === 'move') dabTo(host, event.at)
    if (event.type === 'up' && pressed) {
      selectBones(pressed.bone)
      pressed = null
      return
    }
    if (event.type === 'up' && stroke) {
      const { part, bone, canvas, live } = stroke
      live.restore()
      stroke = null
      setPainted(null, null)
      perform([edit(setWeights, { part, field: canvas.toField() })], `Paint weights of ${openPuppet().bones[bone]!.name}`)
    }
  },
  key(key, host) {
    const radius = radiusAfter(key, useWeigh.getState().radius, WIDEST)
    if (radius === null || choosesPoints()) return false
    useWeigh.setState({ radius })
    host.redraw()
    return true
  },
  draw(pen, host) {
    if (choosesPoints()) return drawWeightPoints(pen, host)
    if (!pointer) return
    const p = toScreen(host.camera, pointer)
    const { radius, falloff } = useWeigh.getState()
    pen.strokeStyle = currentTheme().cord
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
  leave() {
    pointer = null
  },
  cancel() {
    pressed = null
    dropLasso()
    if (!stroke) return
    stroke.live.restore()
    stroke = null
    setPainted(null, null)
    stageModel.refresh()
  },
}
