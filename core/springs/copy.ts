/** Copies of bones swing as their originals do: they join the same group, and what springs keep out of is about them, too. */
import type { CopyAlong } from '../kernel/copying'

export const copySprings: CopyAlong = (puppet, copy) => {
  const isCopied = (bone: string): boolean => copy.isCopied('bone', bone) && copy.renamed('bone', bone) !== bone
  for (const spring of puppet.springs) {
    const copies = spring.bones.filter(isCopied).map((bone) => copy.renamed('bone', bone))
    spring.bones.push(...copies.filter((bone) => puppet.bones[bone] && !spring.bones.includes(bone)))
  }
  const about = copy.source.colliders.filter((c) => c.kind === 'capsule').filter((c) => isCopied(c.bone))
  about.forEach((c, k) =>
    puppet.colliders.push({ ...c, id: `${copy.prefix}-collider-${k + 1}`, name: copy.name(c.name), bone: copy.renamed('bone', c.bone) }),
  )
}
