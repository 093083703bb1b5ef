/** Copies of what is tied to bones: targets and constraints that go along when a limb is copied. */
import { movedBones, targetsOf, type Constraint, type Target } from './records'
import type { Copying, CopyAlong } from '../kernel/copying'
import { mapped } from '../kernel/mapped'

/**
 * Copies constraints that move nothing but copied bones, with the targets that hang from copied bones or from none.
 * Bend sides turn round in a mirror image.
 */
export const copyConstraints: CopyAlong = (puppet, copy) => {
  const { source } = copy
  const copied = source.constraints.filter((c) => movedBones(c).every((b) => copy.isCopied('bone', b)))
  const targets = new Map<string, string>()
  for (const id of new Set(copied.flatMap(targetsOf))) targets.set(id, `${copy.prefix}-target-${targets.size + 1}`)
  for (const [id, made] of targets) puppet.targets[made] = copyTarget(copy, source.targets[id]!, made)
  copied.forEach((c, i) => puppet.constraints.push(copyConstraint(copy, c, `${copy.prefix}-constraint-${i + 1}`, targets)))
}

function copyTarget(copy: Copying, target: Target, id: string): Target {
  const parent = target.parent === null ? null : boneCopy(copy, target.parent)
  return {
    id,
    name: copy.name(target.name),
    at: copy.at(target.at),
    parent,
    inViews: mapped(target.inViews, ({ at }) => ({ at: copy.at(at) })),
  }
}

const boneCopy = ({ renamed }: Copying, bone: string): string => renamed('bone', bone)

function copyConstraint(copy: Copying, c: Constraint, id: string, targets: ReadonlyMap<string, string>): Constraint {
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
