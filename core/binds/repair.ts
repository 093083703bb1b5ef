/** What follows for binds when bones go. */
import { BONE_KIND } from '../bones/tree'
import { heirOf, type Repair } from '../kernel/records'
import type { Part } from '../puppet/schema'
import type { Bind, WeightField } from './records'

type Blended = Extract<Bind, { kind: 'blended' }>

const names = (bind: Bind | null | undefined, gone: ReadonlySet<string>): bind is Blended =>
  bind?.kind === 'blended' && bind.bones.some((b) => gone.has(b))

/** Blended binds share the weight of bones that are gone among the rest; one without any bone left follows the heir whole. */
export const withoutGoneBones: Repair = (before, after, lost) => {
  const gone = lost.get('bone')
  const touched = ({ bind, inViews }: Part): boolean => names(bind, gone!) || Object.values(inViews).some((own) => names(own.bind, gone!))
  if (!gone || !Object.values(after.parts).some(touched)) return null
  return (puppet) => {
    for (const part of Object.values(puppet.parts)) {
      const { bind } = part
      if (names(bind, gone)) {
        const heir = heirOf(BONE_KIND, before, after, bind.bones[0]!)
        part.bind = withoutBones(bind, gone) ?? (heir === null ? null : { kind: 'whole', bone: heir })
      }
      for (const own of Object.values(part.inViews)) {
        if (!names(own.bind, gone)) continue
        const kept = withoutBones(own.bind, gone)
        if (kept) own.bind = kept
        else delete own.bind
      }
    }
  }
}

/** The bind with some bones taken out and each vertex' weights brought back to 1; null when none is left. */
function withoutBones(bind: Blended, gone: ReadonlySet<string>): Blended | null {
  const kept = bind.bones.map((b, i) => ({ b, i })).filter(({ b }) => !gone.has(b))
  if (kept.length === 0) return null
  const renumbered = new Map(kept.map(({ i }, next) => [i, next]))
  const { field } = bind
  const out: WeightField = { vertices: field.vertices, triangles: field.triangles, starts: [0], bones: [], weights: [] }
  for (let v = 0; v + 1 < field.starts.length; v++) {
    const rows: [number, number][] = []
    for (let k = field.starts[v]!; k < field.starts[v + 1]!; k++) {
      const bone = renumbered.get(field.bones[k]!)
      if (bone !== undefined && field.weights[k]! > 0) rows.push([bone, field.weights[k]!])
    }
    const sum = rows.reduce((s, [, w]) => s + w, 0)
    const shared: [number, number][] = sum > 0 ? rows.map(([b, w]) => [b, w / sum]) : [[0, 1]]
    for (const [b, w] of shared) {
      out.bones.push(b)
      out.weights.push(w)
    }
    out.starts.push(out.bones.length)
  }
  const madeAt = kept.flatMap(({ i }) => bind.madeAt.slice(4 * i, 4 * i + 4))
  return { kind: 'blended', mode: bind.mode, bones: kept.map(({ b }) => b), field: out, madeAt }
}
