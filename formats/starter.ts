/** Starter files: the places of a puppet's parts under the names that templates look for, to be painted over. */
import { pictureOf } from '@marionette/core/parts/pictures'
import type { Part, Path, Puppet } from '@marionette/core/puppet/schema'
import { drawingOf, restMatrix, maskingParts } from '@marionette/core/parts/tree'
import { forEachSegment, mapPath } from '@marionette/core/maths/geometry/path'
import { roleOf, splitKey } from '@marionette/core/roles/roles'
import { sideWord } from '@marionette/core/roles/words'
import { escaped } from './openraster/write'

/** What a part should be called: by its role, in the puppet's convention of sides; by its name where it has none. */
export function expectedName(puppet: Puppet, part: Part): string {
  if (!part.role) return part.name
  const { role, side } = splitKey(part.role)
  const label = roleOf(role)?.label
  if (!label) return part.name
  return side ? `${label} ${sideWord(side, puppet.naming)}` : label
}

/** A puppet's structure as SVG: groups and shapes in one pale tone, with the outlines that are there. */
export function starterSvg(puppet: Puppet): string {
  const { width, height } = puppet.canvas
  const masking = maskingParts(puppet)
  const write = (part: Part, depth: number): string => {
    const pad = '  '.repeat(depth)
    const inside = part.children
      .map((id) => puppet.parts[id]!)
      .filter((p) => p.visible || !masking.has(p.id))
      .map((p) => write(p, depth + 1))
      .join('')
    const hidden = part.visible ? '' : ' display="none"'
    return `${pad}<g id="${escaped(expectedName(puppet, part))}"${hidden}>\n${shapesOf(puppet, part, `${pad}  `)}${inside}${pad}</g>\n`
  }
  const parts = puppet.parts[puppet.root]!.children.map((id) => write(puppet.parts[id]!, 1)).join('')
  const size = `width="${number(width)}" height="${number(height)}" viewBox="0 0 ${number(width)} ${number(height)}"`
  return `<svg xmlns="http://www.w3.org/2000/svg" ${size}>\n  <title>${escaped(puppet.name)}</title>\n${parts}</svg>\n`
}

function shapesOf(puppet: Puppet, part: Part, pad: string): string {
  const drawing = part.merged === null || pictureOf(puppet, part) ? drawingOf(puppet, part) : null
  if (!drawing) return ''
  const map = restMatrix(puppet, part.id)
  return drawing.shapes
    .filter((s) => s.paths.length > 0)
    .map((shape) => {
      const d = shape.paths.map((p) => pathData(mapPath(p, map))).join('')
      const fill = shape.ink ? `fill="#d6cbb6" fill-rule="${shape.ink.rule}"` : 'fill="none"'
      const stroke = shape.line ? ` stroke="#a89c86" stroke-width="${number(shape.line.width)}" stroke-linecap="${shape.line.cap}"` : ''
      return `${pad}<path d="${d}" ${fill}${stroke}/>\n`
    })
    .join('')
}

function pathData(path: Path): string {
  let out = `M${number(path.anchors[0]!)} ${number(path.anchors[1]!)}`
  forEachSegment(path, (_x0, _y0, x1, y1, x2, y2, x3, y3) => {
    out += `C${[x1, y1, x2, y2, x3, y3].map(number).join(' ')}`
  })
  return path.closed ? `${out}Z` : out
}

const number = (v: number): string => String(Math.round(v * 100) / 100)
