/** A made-up kind of deformer: what lies below its one handle sways to the side. Nothing but this file and a line in the table knows it. */
import { z } from 'zod'
import { deformerFields, type DeformerKind } from '../../deformers/kind'
import type { Shape, ShapeSlots } from '../../deformers/shape'
import { Vec } from '../../kernel/numbers'

export const Sway = z.object({ kind: z.literal('sway'), ...deformerFields, at: Vec })
export type Sway = z.infer<typeof Sway>

class SwayShape implements Shape {
  readonly cell = 20
  private by = 0

  constructor(private readonly sway: Sway) {}

  pose(pose: Float64Array, { own, handles }: ShapeSlots): boolean {
    this.by = pose[own]! >= 0.5 ? pose[own + 1]! * pose[handles]! : 0
    return this.by !== 0
  }

  prepare(): Float64Array {
    return new Float64Array(0)
  }

  apply(points: Float64Array): void {
    for (let i = 0; i < points.length; i += 2) points[i]! += (this.by * Math.max(0, points[i + 1]! - this.sway.at.y)) / 100
  }
}

export const swayKind: DeformerKind<Sway> = {
  label: 'sway',
  schema: Sway,
  filesHandles: false,
  isSmooth: true,
  handles: ({ id }) => [`${id}.0.0`],
  places: ({ at }) => [at],
  handleName: ({ name }) => `${name}, handle`,
  hasField: () => false,
  underId: (d, id) => ({ ...d, id }),
  shape: (d) => new SwayShape(d),
}
