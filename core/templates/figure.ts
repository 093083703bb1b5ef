/** The skeleton of a template by itself, for those who draw over it: its figure in the middle of the canvas. */
import { addBone, setLimits } from '../bones/commands'
import { edit, type Edit } from '../kernel/command'
import type { Vec } from '../kernel/numbers'
import { sure } from '../kernel/sure'
import type { Puppet } from '../puppet/schema'
import type { Template, TemplateBone } from './template'

/** Share of the canvas that the figure takes. */
const FILLS = 0.9

/** The bones that every creature of the kind has: scarves and bags come with artwork. A template of nothing else is taken whole. */
export function figureBones({ bones }: Template): readonly TemplateBone[] {
  const needed = bones.filter((b) => !b.optional)
  if (needed.length < 3) return bones
  const byKey = new Map(bones.map((b) => [b.key, b]))
  /** The next bone above that stays. */
  const above = (key: string | null): string | null => {
    const found = key === null ? undefined : byKey.get(key)
    return found?.optional ? above(found.parent) : (found?.key ?? null)
  }
  return needed.map((b) => ({ ...b, parent: above(b.parent) }))
}

/**
 * The edits that put the bones of a template onto a canvas without artwork.
 *
 * @param id what the ids of the bones begin with
 */
export function figureEdits({ canvas }: Pick<Puppet, 'canvas'>, template: Template, id: string): Edit[] {
  const bones = figureBones(template)
  const xs = bones.flatMap(({ figure }) => [figure[0], figure[2]])
  const ys = bones.flatMap(({ figure }) => [figure[1], figure[3]])
  const [left, right, top, bottom] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)]
  const scale = FILLS * Math.min(canvas.width / Math.max(1, right - left), canvas.height / Math.max(1, bottom - top))
  const onCanvas = (x: number, y: number): Vec => ({
    x: Math.round(10 * (canvas.width / 2 + scale * (x - (left + right) / 2))) / 10,
    y: Math.round(10 * (canvas.height / 2 + scale * (y - (top + bottom) / 2))) / 10,
  })
  const ids = new Map(bones.map(({ key }, k) => [key, `${id}-${k + 1}`]))
  const idOf = (key: string): string => sure(ids.get(key))
  return bones.flatMap(({ key, name, parent, figure, colour, limits }): Edit[] => {
    const drawn = edit(addBone, {
      ...{ id: idOf(key), name, parent: parent === null ? null : idOf(parent), colour },
      ...{ start: onCanvas(figure[0], figure[1]), end: onCanvas(figure[2], figure[3]) },
    })
    return limits.min === null && limits.max === null ? [drawn] : [drawn, edit(setLimits, { bone: idOf(key), limits })]
  })
}
