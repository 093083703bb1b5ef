/** skin-100k: linear blend skinning of 100,000 points with four influences of 64 bones. */
import { skinLinear } from '@marionette/core/rig/skin'
import { seededRandom } from '@marionette/core/test/puppets'
import { measure, type Figure } from './measure'

const POINTS = 100_000
const BONES = 64

function makeInput() {
  const random = seededRandom(7)
  const rest = Float64Array.from({ length: 2 * POINTS }, () => random() * 1000)
  const offsets = new Int32Array(4 * POINTS)
  const weights = new Float64Array(4 * POINTS)
  for (let i = 0; i < POINTS; i++) {
    const first = Math.floor((i / POINTS) * (BONES - 4))
    let sum = 0
    for (let k = 0; k < 4; k++) {
      offsets[4 * i + k] = (first + k) * 6
      sum += weights[4 * i + k] = random() + 0.01
    }
    for (let k = 0; k < 4; k++) weights[4 * i + k]! /= sum
  }
  return {
    rest,
    offsets,
    weights,
    maps: new Float64Array(6 * BONES),
    out: new Float64Array(2 * POINTS),
    other: new Float64Array(2 * POINTS),
  }
}

function turnBones(maps: Float64Array, t: number): void {
  for (let b = 0; b < BONES; b++) {
    const angle = 0.3 * Math.sin(t + b)
    maps.set([Math.cos(angle), Math.sin(angle), -Math.sin(angle), Math.cos(angle), 3 * Math.sin(2 * t + b), 3 * Math.cos(t + b)], 6 * b)
  }
}

/** The textbook form that the kernel is measured against: each influence maps the point, the results are summed. */
function skinByInfluence(rest: Float64Array, offsets: Int32Array, weights: Float64Array, maps: Float64Array, out: Float64Array): void {
  for (let i = 0; i < rest.length / 2; i++) {
    let x = 0
    let y = 0
    for (let k = 4 * i; k < 4 * i + 4; k++) {
      const m = offsets[k]!
      const w = weights[k]!
      x += w * (maps[m]! * rest[2 * i]! + maps[m + 2]! * rest[2 * i + 1]! + maps[m + 4]!)
      y += w * (maps[m + 1]! * rest[2 * i]! + maps[m + 3]! * rest[2 * i + 1]! + maps[m + 5]!)
    }
    out[2 * i] = x
    out[2 * i + 1] = y
  }
}

export function skinFigure(): Figure {
  const { rest, offsets, weights, maps, out, other } = makeInput()
  return measure(
    'skin-100k',
    POINTS,
    'reference: the loop over influences, same arrays, same process',
    (round) => {
      turnBones(maps, round * 0.1)
      skinLinear(rest, offsets, weights, maps, out)
    },
    (round) => {
      turnBones(maps, round * 0.1)
      skinByInfluence(rest, offsets, weights, maps, other)
    },
  )
}
