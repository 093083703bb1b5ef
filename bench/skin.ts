/** skin-100k and skin-volume-100k: 100,000 points with four influences of 64 bones. */
import { execFileSync, spawnSync } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { skinLinear, skinVolume } from '@marionette/core/binds/skin'
import { seededRandom } from '@marionette/core/maths/solve/random'
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

/** The textbook form: each influence maps the point, the results are summed. */
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

/** The best form known in JavaScript, on plain arguments: the maps are blended first, places are numbered bones. */
function skinByBlend(rest: Float64Array, numbers: Uint16Array, weights: Float64Array, maps: Float64Array, out: Float64Array): void {
  for (let i = 0, p = 0, q = 0; i < rest.length / 2; i++, p += 2, q += 4) {
    let a = 0
    let b = 0
    let c = 0
    let d = 0
    let e = 0
    let f = 0
    for (let k = q; k < q + 4; k++) {
      const m = numbers[k]! * 6
      const w = weights[k]!
      a += w * maps[m]!
      b += w * maps[m + 1]!
      c += w * maps[m + 2]!
      d += w * maps[m + 3]!
      e += w * maps[m + 4]!
      f += w * maps[m + 5]!
    }
    out[p] = a * rest[p]! + c * rest[p + 1]! + e
    out[p + 1] = b * rest[p]! + d * rest[p + 1]! + f
  }
}

export function skinFigure(): Figure {
  const { rest, offsets, weights, maps, out, other } = makeInput()
  const numbers = Uint16Array.from(offsets, (o) => o / 6)
  const kernel = (round: number): void => {
    turnBones(maps, round * 0.1)
    skinLinear(rest, offsets, weights, maps, out)
  }
  const references = [
    (round: number): void => {
      turnBones(maps, round * 0.1)
      skinByInfluence(rest, offsets, weights, maps, other)
    },
    (round: number): void => {
      turnBones(maps, round * 0.1)
      skinByBlend(rest, numbers, weights, maps, other)
    },
  ].map((reference) => measure('skin-100k', POINTS, '', kernel, reference))
  const best = references.reduce((a, b) => (a.reference_ms! <= b.reference_ms! ? a : b))
  const native = skinInC()
  const inC =
    native === null ? 'no C compiler at hand' : `C in the same run ${native} ms, ratio to it ${(best.median_ms! / native).toFixed(1)}`
  return { ...best, note: `reference: the better of two forms in JavaScript, same arrays, same process; ${inC}` }
}

/** Median of the same work in C, or null where there is no compiler. */
function skinInC(): number | null {
  const compiler = ['gcc', 'cc', 'clang'].find((name) => spawnSync(name, ['--version'], { stdio: 'ignore' }).status === 0)
  if (!compiler) return null
  const folder = mkdtempSync(join(tmpdir(), 'marionette-bench-'))
  try {
    const program = join(folder, 'skin')
    execFileSync(compiler, ['-O3', '-march=native', fileURLToPath(new URL('skin.c', import.meta.url)), '-o', program, '-lm'])
    return Number(execFileSync(program, { encoding: 'utf8' }))
  } catch {
    return null
  } finally {
    rmSync(folder, { recursive: true, force: true })
  }
}

export function skinVolumeFigure(): Figure {
  const { rest, offsets, weights, maps, out, other } = makeInput()
  const centres = rest.map((v, i) => v + 20 * Math.sin(i))
  const world = Float64Array.of(1, 0, 0, 1, 0, 0)
  return measure(
    'skin-volume-100k',
    POINTS,
    'optimised centres of rotation; reference: linear blend skinning, same arrays, same process',
    (round) => {
      turnBones(maps, round * 0.1)
      skinVolume(rest, centres, offsets, weights, maps, world, 0, out)
    },
    (round) => {
      turnBones(maps, round * 0.1)
      skinLinear(rest, offsets, weights, maps, other)
    },
  )
}
