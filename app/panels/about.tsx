/** Details groups that take a part or a bone, told what is selected. */
import type { ComponentType } from 'react'
import type { Bone } from '@marionette/core/bones/records'
import type { Part } from '@marionette/core/puppet/schema'
import { usePuppet } from '../editor/document'

interface About {
  readonly ids: readonly string[]
}

/** For the first of the selected parts; another part is a group of its own. */
export function withPart(Group: ComponentType<{ part: Part }>): ComponentType<About> {
  return function PartGroup({ ids: [id = ''] }: About) {
    const part = usePuppet((p) => p.parts[id])
    return part ? <Group key={id} part={part} /> : null
  }
}

/** For the first of the selected bones, with all that are selected. */
export function withBone(Group: ComponentType<{ bone: Bone; ids: readonly string[] }>): ComponentType<About> {
  return function BoneGroup({ ids }: About) {
    const bone = usePuppet((p) => p.bones[ids[0] ?? ''])
    return bone ? <Group bone={bone} ids={ids} /> : null
  }
}

/** For the id of the first of what is selected. */
export function withId(Group: ComponentType<{ id: string }>): ComponentType<About> {
  return function IdGroup({ ids: [id = ''] }: About) {
    return <Group id={id} />
  }
}
