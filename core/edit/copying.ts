/** Copies of what is tied to bones: targets and constraints that go along when a limb is copied. */
import { movedBones, targetsOf, type Constraint, type Puppet, type Target, type Vec } from '../document/schema'
import { mapped } from './records'

export interface LimbCopy {
  /** The puppet that is copied from. */
  readonly source: Puppet
  /** From each copied bone to its copy. */
  readonly bones: ReadonlyMap<string, string>
  /** Bone of the copy's side for one that is not copied itself. */
  readonly otherBone: (bone: string) => string | null
  readonly at: (v: Vec) => Vec
  readonly name: (name: string) => string
  readonly mirrored: boolean
  readonly prefix: string
}

/**
 * Copies constraints that move nothing but copied bones, with the targets that hang from copied bones or from none.
 * Bend sides turn round in a mirror image.
 */
export function copyConstraints(puppet: Puppet, copy: LimbCopy): void {
  const { source, bones } = copy
  const copied = source.constraints.filter((c) => movedBones(c).every((b) => bones.has(b)))
  const targets = new Map<string, string>()
  for (const id of new Set(copied.flatMap(targetsOf))) targets.set(id, `${copy.prefix}-target-${targets.size + 1}`)
  for (const [id, made] of targets) puppet.targets[made] = copyTarget(copy, source.targets[id]!, made)
  copied.forEach((c, i) => puppet.constraints.push(copyConstraint(copy, c, `${copy.prefix}-constraint-${i + 1}`, targets)))
}

function copyTarget(copy: LimbCopy, target: Target, id: string): Target {
  const parent = target.parent === null ? null : boneCopy(copy, target.parent)
  return {
    id,
    name: copy.name(target.name),
    at: copy.at(target.at),
    parent,
    inViews: mapped(target.inViews, ({ at }) => ({ at: copy.at(at) })),
  }
}

const boneCopy = ({ bones, otherBone }: LimbCopy, bone: string): string => bones.get(bone) ?? otherBone(bone) ?? bone

function copyConstraint(copy: LimbCopy, c: Constraint, id: string, targets: ReadonlyMap<string, string>): Constraint {
  const own = { id, name: copy.name(c.name) }
  const bone = (b: string): string => boneCopy(copy, b)
  const target = (t: string): string => targets.get(t)!
  const turned = copy.mirrored ? -1 : 1
  switch (c.kind) {
    case 'reach':
      return {
        ...c,
        ...own,
        bones: c.bones.map(bone),
        target: target(c.target),
        side: (c.side * turned || 0) as typeof c.side,
        level: c.level && bone(c.level),
        pole: c.pole && target(c.pole),
      }
    case 'path':
      return { ...c, ...own, bones: c.bones.map(bone), targets: c.targets.map(target) }
    case 'copy':
      return { ...c, ...own, bone: bone(c.bone), from: bone(c.from) }
    default:
      return { ...c, ...own, bone: bone(c.bone), target: target(c.target) }
  }
}
