/** `rig inspect IN [--json]`: the tree of parts, counts and warnings. */
import type { BlendMode, Part, Puppet } from '@marionette/core/puppet/schema'
import { restBounds } from '@marionette/core/parts/tree'
import { readInput } from './files'
import { partOf } from '@marionette/core/parts/lookup'

interface PartReport {
  readonly id: string
  readonly name: string
  readonly kind: Part['content']['kind']
  readonly visible: boolean
  readonly opacity: number
  /** [min x, min y, max x, max y] on the canvas at rest, or null where nothing shows */
  readonly bounds: readonly [number, number, number, number] | null
  readonly bind: string | null
  readonly blend: BlendMode
  readonly masks: number
  readonly children: readonly PartReport[]
}

const rounded = (v: number): number => Math.round(v * 1000) / 1000

function reportPart(puppet: Puppet, id: string): PartReport {
  const part = partOf(puppet, id)
  const box = restBounds(puppet, id)
  return {
    id,
    name: part.name,
    kind: part.content.kind,
    visible: part.visible,
    opacity: part.opacity,
    bounds: box && [rounded(box.minX), rounded(box.minY), rounded(box.maxX), rounded(box.maxY)],
    bind: part.bind?.kind ?? null,
    blend: part.blend,
    masks: part.masks.length,
    children: part.children.map((child) => reportPart(puppet, child)),
  }
}

function count(puppet: Puppet): Record<string, number> {
  const shapes = Object.values(puppet.drawings).flatMap((d) => d.shapes)
  const points = shapes.flatMap((s) => s.paths).reduce((sum, path) => sum + path.ids.length, 0)
  return {
    parts: Object.keys(puppet.parts).length,
    drawings: Object.keys(puppet.drawings).length,
    pictures: Object.keys(puppet.pictures).length,
    shapes: shapes.length,
    points,
    bones: Object.keys(puppet.bones).length,
    clips: puppet.clips.length,
  }
}

export async function inspect(input: string, json: boolean): Promise<string> {
  const { puppet, warnings } = await readInput(input)
  const tree = reportPart(puppet, puppet.root)
  const counts = count(puppet)
  const clips = puppet.clips.map(({ id, name, length, rate }) => ({ id, name, length, rate }))
  if (json) {
    const { width, height } = puppet.canvas
    return JSON.stringify({ name: puppet.name, canvas: { width, height }, counts, tree, clips, warnings }, null, 2)
  }
  const lines: string[] = []
  const print = (part: PartReport, depth: number): void => {
    const notes = [
      part.kind,
      part.visible ? '' : 'hidden',
      part.blend === 'normal' ? '' : part.blend,
      part.masks > 0 ? 'masked' : '',
      part.opacity < 1 ? `opacity ${part.opacity}` : '',
      part.bind ? `bound ${part.bind}` : '',
    ]
    lines.push(`${'  '.repeat(depth)}${part.name}  (${notes.filter(Boolean).join(', ')})`)
    for (const child of part.children) print(child, depth + 1)
  }
  print(tree, 0)
  if (clips.length > 0) lines.push('', ...clips.map((c) => `clip  ${c.name}  ${rounded(c.length)} s at ${rounded(c.rate)} frames a second`))
  const sums = Object.entries(counts).map(([what, n]) => `${n} ${what}`)
  return [...lines, '', sums.join(', '), ...warnings.map((w) => `warning: ${w.place}: ${w.message}`)].join('\n')
}
