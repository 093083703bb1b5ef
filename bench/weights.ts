/** weights-5000x20: heat weights of 20 bones on about 5,000 vertices. */
import { meshRegion } from '@marionette/core/artwork/mesh'
import { heatWeights } from '@marionette/core/maths/solve/heat'
import { measure, type Figure } from './measure'

export function weightsFigure(): Figure {
  const wide = 1000
  const high = 300
  const spacing = Math.sqrt((wide * high * 2) / (5000 * Math.sqrt(3)))
  const mesh = meshRegion(
    [
      [
        [
          [0, 0],
          [wide, 0],
          [wide, high],
          [0, high],
          [0, 0],
        ],
      ],
    ],
    spacing,
  )
  const bones = Array.from({ length: 20 }, (_, i) => [(wide * i) / 20, high / 2, (wide * (i + 1)) / 20, high / 2]).flat()
  return measure(
    'weights-5000x20',
    mesh.vertices.length / 2,
    'Laplacian, one factorisation, 20 solutions, four influences',
    () => heatWeights(mesh, bones),
    undefined,
    30,
  )
}
