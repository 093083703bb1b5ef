/** Lengths, numbers and transforms as SVG writes them. */
import { IDENTITY, multiply, turnAbout, translation } from '@marionette/core/maths/geometry/affine'
import type { Affine } from '@marionette/core/puppet/schema'

/** CSS pixels in each unit. */
const UNITS: Record<string, number> = {
  '': 1,
  px: 1,
  pt: 4 / 3,
  pc: 16,
  in: 96,
  cm: 96 / 2.54,
  mm: 96 / 25.4,
  q: 96 / 101.6,
  em: 16,
  rem: 16,
  ex: 8,
  ch: 8,
}

/** Coordinates beyond this are taken for a mistake; also keeps sums finite. */
export const FARTHEST = 1e7

/** A length in px, or null where it is none; `whole` is what 100% means, if percentages are allowed here. */
export function parseLength(text: string | undefined, whole?: number): number | null {
  const match = /^\s*([-+]?(?:\d+\.?\d*|\.\d+)(?:e[-+]?\d+)?)\s*([a-z]*|%)\s*$/i.exec(text ?? '')
  if (!match) return null
  const number = Number(match[1])
  if (!Number.isFinite(number) || Math.abs(number) > FARTHEST) return null
  if (match[2] === '%') return whole === undefined ? null : (number / 100) * whole
  const unit = UNITS[match[2]!.toLowerCase()]
  return unit === undefined ? null : number * unit
}

/** All numbers of a list, or null where something else stands among them. */
export function parseNumbers(text: string): number[] | null {
  const parts = text.match(/[-+]?(?:\d+\.?\d*|\.\d+)(?:e[-+]?\d+)?/gi) ?? []
  const rest = text.replace(/[-+]?(?:\d+\.?\d*|\.\d+)(?:e[-+]?\d+)?/gi, '').replace(/[\s,]/g, '')
  const numbers = parts.map(Number)
  return rest === '' && numbers.every((n) => Number.isFinite(n) && Math.abs(n) <= FARTHEST) ? numbers : null
}

const skew = (x: number, y: number): Affine => [1, Math.tan((y * Math.PI) / 180), Math.tan((x * Math.PI) / 180), 1, 0, 0]

/** Numbers allowed for each transform, and the map they mean. SVG turns clockwise, the core counter-clockwise. */
const TRANSFORMS: Record<string, { counts: number[]; map: (n: number[]) => Affine }> = {
  matrix: { counts: [6], map: (n) => n as Affine },
  translate: { counts: [1, 2], map: ([x = 0, y = 0]) => translation(x, y) },
  scale: { counts: [1, 2], map: ([x = 1, y = x]) => [x, 0, 0, y, 0, 0] },
  rotate: { counts: [1, 3], map: ([a = 0, x = 0, y = 0]) => turnAbout(-a, { x, y }) },
  skewX: { counts: [1], map: ([a = 0]) => skew(a, 0) },
  skewY: { counts: [1], map: ([a = 0]) => skew(0, a) },
}

/** The map of a transform list, or null where it cannot be read. */
export function parseTransform(text: string | undefined): Affine | null {
  if (!text || text.trim() === 'none') return IDENTITY
  let out = IDENTITY
  const pattern = /([a-zA-Z]+)\s*\(([^)]*)\)[\s,]*/y
  let at = text.length - text.trimStart().length
  while (at < text.length) {
    pattern.lastIndex = at
    const match = pattern.exec(text)
    const known = match && TRANSFORMS[match[1]!]
    const numbers = match && parseNumbers(match[2]!)
    if (!match || !known || !numbers || !known.counts.includes(numbers.length)) return null
    out = multiply(out, known.map(numbers))
    at = pattern.lastIndex
  }
  return out.every(Number.isFinite) ? out : null
}
