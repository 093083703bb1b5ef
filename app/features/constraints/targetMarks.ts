/** Targets on the stage: open squares, with a cord to what looks for them. */
import type { Vec } from '@marionette/core/puppet/schema'
import { bonePoint } from '@marionette/core/puppet/probe'
import type { StageModel } from '../../editor/stageModel'
import { toScreen, type Camera } from '../../stage/camera'
import { targetPlace } from '@marionette/core/puppet/frame'
import { nth } from '@marionette/core/kernel/sure'
import { boneOf } from '@marionette/core/bones/lookup'

const SIDE = 7

/** The target under a spot, within some canvas px. */
export function targetAt({ rig, frame }: StageModel, at: Vec, reach: number): string | null {
  let best: string | null = null
  let least = reach
  for (const id of rig.constraints.targets.index.keys()) {
    const { x, y } = targetPlace(frame, id)
    const far = Math.max(Math.abs(x - at.x), Math.abs(y - at.y))
    if (far > least) continue
    best = id
    least = far
  }
  return best
}

interface Colours {
  readonly halo: string
  readonly cord: string
  readonly chains: readonly string[]
}

/** Draws all targets; cords hang a little, as cords do. */
export function drawTargets(
  pen: CanvasRenderingContext2D,
  camera: Camera,
  { rig, frame }: StageModel,
  colours: Colours,
  held: string | null,
): void {
  const { puppet, bones, constraints } = rig
  const colourOf = new Map<string, string>()
  for (const c of constraints.list) {
    const { source } = c
    if (source.kind === 'copy') continue
    const bone = nth(c.bones, -1)
    const colour = nth(colours.chains, boneOf(puppet, nth(bones.ids, bone)).colour - 1)
    const ids = source.kind === 'path' ? source.targets : [source.target]
    for (const id of ids) colourOf.set(id, colour)
    const tip = toScreen(camera, bonePoint(frame, bone, source.kind === 'distance' ? 0 : 1))
    const target = toScreen(camera, targetPlace(frame, nth(ids, -1)))
    hang(pen, tip, target, colour, colours.halo)
  }
  for (const id of constraints.targets.index.keys()) {
    const { x, y, turn } = targetPlace(frame, id)
    drawSquare(pen, toScreen(camera, { x, y }), turn, colourOf.get(id) ?? nth(colours.chains, 6), id === held ? colours.cord : colours.halo)
  }
}

function hang(pen: CanvasRenderingContext2D, from: Vec, to: Vec, colour: string, halo: string): void {
  const far = Math.hypot(to.x - from.x, to.y - from.y)
  if (far < SIDE) return
  for (const [stroke, width] of [
    [halo, 3.5],
    [colour, 1.5],
  ] as const) {
    pen.beginPath()
    pen.moveTo(from.x, from.y)
    pen.quadraticCurveTo((from.x + to.x) / 2, (from.y + to.y) / 2 + 0.18 * far, to.x, to.y)
    pen.strokeStyle = stroke
    pen.lineWidth = width
    pen.stroke()
  }
}

function drawSquare(pen: CanvasRenderingContext2D, at: Vec, turn: number, colour: string, halo: string): void {
  pen.save()
  pen.translate(at.x, at.y)
  pen.rotate((-turn * Math.PI) / 180)
  pen.strokeStyle = halo
  pen.lineWidth = 5.5
  pen.strokeRect(-SIDE, -SIDE, 2 * SIDE, 2 * SIDE)
  pen.strokeStyle = colour
  pen.lineWidth = 2.5
  pen.strokeRect(-SIDE, -SIDE, 2 * SIDE, 2 * SIDE)
  pen.restore()
}
