/** Choosing points of weights: a lasso takes them, a click takes the nearest one. */
import { pointsInLasso } from '@marionette/core/binds/weightPoints'
import type { Vec } from '@marionette/core/puppet/schema'
import { blendedOf, drawnPoints, posedField, strongestOf, type Blended } from '@marionette/core/placement/posedWeights'
import { openPuppet } from '../../editor/document'
import { useSession } from '../../editor/session'
import { chosenPoints, useWeigh } from './brush'
import { toScreen } from '../../stage/camera'
import type { ToolEvent, ToolHost } from '../../stage/tool'
import type { WeightField } from '@marionette/core/binds/records'
import { bindHolder } from '@marionette/core/binds/tree'
import { currentTheme } from '../../stage/theme'
import { editorState, type Editor } from '../../editor/editor'
import { nth, sure } from '@marionette/core/kernel/sure'
import { boneOf } from '@marionette/core/bones/lookup'

interface Own {
  /** The loop that is being drawn [2k], and what it does to the points chosen before. */
  lasso: { points: number[]; how: 'new' | 'add' | 'subtract' } | null
}

const stateOf = editorState((): Own => ({ lasso: null }))

/** Reach of a click, screen px. */
const REACH = 12

interface Candidate {
  readonly part: string
  readonly bind: Blended
}

/** Blended parts in question: that of the selected part, those that bend with the selected bone, or all. */
function candidates(editor: Editor): Candidate[] {
  const puppet = openPuppet(editor)
  const { selection } = useSession.of(editor).getState()
  const first = selection.ids[0]
  const holder = selection.kind === 'part' && first !== undefined ? bindHolder(puppet, first)?.id : undefined
  const bone = selection.kind === 'bone' ? first : undefined
  return Object.keys(puppet.parts).flatMap((part) => {
    const bind = blendedOf(puppet, part)
    if (!bind || (holder !== undefined && part !== holder) || (bone !== undefined && !bind.bones.includes(bone))) return []
    return [{ part, bind }]
  })
}

const placesOf = ({ model: { rig, frame } }: ToolHost, { part, bind }: Candidate): Float64Array =>
  posedField(rig, frame, sure(rig.parts.index.get(part)), bind)

/** Area that a point of a mesh stands for, canvas px². */
function areaOfPoint(places: Float64Array, { triangles }: WeightField): number {
  let area = 0
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [2 * triangles[t]!, 2 * triangles[t + 1]!, 2 * triangles[t + 2]!]
    area += Math.abs(
      (places[b]! - places[a]!) * (places[c + 1]! - places[a + 1]!) - (places[b + 1]! - places[a + 1]!) * (places[c]! - places[a]!),
    )
  }
  return area / places.length
}

/** The points of the part that has the greatest area in the lasso. */
function inLasso(host: ToolHost, loop: readonly number[]): { found: Candidate; points: number[] } | null {
  const { rig, frame } = host.model
  const all = candidates(host.editor).map((found) => {
    const drawn = drawnPoints(rig, frame, sure(rig.parts.index.get(found.part)))
    const places = placesOf(host, found)
    const points = pointsInLasso(found.bind.field, places, loop, drawn)
    return { found, points, area: points.length * areaOfPoint(places, found.bind.field) }
  })
  const best = all.sort((a, b) => b.area - a.area)[0]
  return best && best.points.length > 0 ? best : null
}

function nearest(host: ToolHost, at: Vec): { found: Candidate; points: number[] } | null {
  let best: { found: Candidate; points: number[] } | null = null
  let least = host.px(REACH)
  for (const found of candidates(host.editor)) {
    const places = placesOf(host, found)
    for (let v = 0; v < places.length / 2; v++) {
      const far = Math.hypot(places[2 * v]! - at.x, places[2 * v + 1]! - at.y)
      if (far < least) {
        least = far
        best = { found, points: [v] }
      }
    }
  }
  return best
}

/** Points of another part than before are always chosen anew. */
function choose(editor: Editor, taken: { found: Candidate; points: number[] } | null, how: 'new' | 'add' | 'subtract'): void {
  const before = chosenPoints(editor, openPuppet(editor))
  if (!taken) return how === 'new' ? useWeigh.of(editor).setState({ chosen: null }) : undefined
  const { part, bind } = taken.found
  const kept = before?.part === part && how !== 'new' ? before.points : []
  const points = how === 'subtract' ? kept.filter((v) => !taken.points.includes(v)) : [...new Set([...kept, ...taken.points])]
  useWeigh.of(editor).setState({ chosen: points.length > 0 ? { part, points, of: bind.field.vertices.length / 2 } : null })
}

const howOf = ({ shift, alt }: ToolEvent): 'new' | 'add' | 'subtract' => (alt ? 'subtract' : shift ? 'add' : 'new')

/** A click, or a drag around points. */
export function pickPoints(event: ToolEvent, host: ToolHost): void {
  const own = stateOf(host.editor)
  if (event.type === 'down') own.lasso = { points: [event.at.x, event.at.y], how: howOf(event) }
  if (!own.lasso) return
  if (event.type === 'move' && event.dragging) own.lasso.points.push(event.at.x, event.at.y)
  if (event.type === 'up') {
    const { points, how } = own.lasso
    own.lasso = null
    choose(host.editor, event.dragging ? inLasso(host, points) : nearest(host, event.at), how)
  }
  host.redraw()
}

export const dropLasso = (editor: Editor): void => {
  const own = stateOf(editor)
  own.lasso = null
}

/** Every point of the parts in question in the colour of the bone that pulls it most; chosen ones are ringed. */
export function drawWeightPoints(pen: CanvasRenderingContext2D, host: ToolHost): void {
  const own = stateOf(host.editor)
  const puppet = openPuppet(host.editor)
  const { chains, halo, cord } = currentTheme(host.editor)
  const chosen = chosenPoints(host.editor, puppet)
  const marked = new Set(chosen?.points)
  for (const candidate of candidates(host.editor)) {
    const places = placesOf(host, candidate)
    const strongest = strongestOf(candidate.bind.field)
    // Dots of a fine mesh leave the drawing in sight.
    const size = Math.min(2.5, Math.max(1, 0.22 * Math.sqrt(areaOfPoint(places, candidate.bind.field)) * host.camera.zoom))
    for (let v = 0; v < places.length / 2; v++) {
      const isChosen = candidate.part === chosen?.part && marked.has(v)
      const p = toScreen(host.camera, { x: places[2 * v]!, y: places[2 * v + 1]! })
      const bone = boneOf(puppet, nth(candidate.bind.bones, strongest[v]!))
      pen.beginPath()
      pen.arc(p.x, p.y, isChosen ? 1.5 * size + 0.5 : size, 0, 2 * Math.PI)
      pen.fillStyle = nth(chains, bone.colour - 1)
      pen.strokeStyle = isChosen ? cord : halo
      pen.lineWidth = isChosen ? 1.5 : 0.5
      pen.fill()
      pen.stroke()
    }
  }
  if (own.lasso) drawLoop(pen, host, own.lasso.points, cord)
}

function drawLoop(pen: CanvasRenderingContext2D, host: ToolHost, points: readonly number[], colour: string): void {
  pen.beginPath()
  for (let i = 0; i < points.length; i += 2) {
    const p = toScreen(host.camera, { x: points[i]!, y: points[i + 1]! })
    pen.lineTo(p.x, p.y)
  }
  pen.closePath()
  pen.strokeStyle = colour
  pen.lineWidth = 1.5
  pen.setLineDash([5, 4])
  pen.stroke()
  pen.setLineDash([])
}
