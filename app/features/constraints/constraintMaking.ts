/** Constraints made from bones, with targets where they are needed. */
import { freshId } from '@marionette/core/kernel/ids'
import type { Constraint, Puppet } from '@marionette/core/puppet/schema'
import { addConstraint, addTarget } from '@marionette/core/constraints/commands'
import { openPuppet, perform } from '../../editor/document'
import { edit, type Edit } from '@marionette/core/kernel/command'
import { limbUpTo } from '@marionette/core/bones/tree'
import type { Editor } from '../../editor/editor'
import { nth } from '@marionette/core/kernel/sure'
import { boneOf } from '@marionette/core/bones/lookup'

/** A short last bone on two longer ones is a hand or a foot: it is kept level, and the limb ends before it. */
function limbOf(puppet: Puppet, bone: string): { bones: string[]; level: string | null } {
  const bones = limbUpTo(puppet, bone)
  const isFoot = bones.length === 3 && boneOf(puppet, bone).children.length === 0
  return isFoot ? { bones: bones.slice(0, 2), level: bone } : { bones, level: null }
}

/** The side to which a limb bends at rest; 0 where it is straight. */
function restSide(puppet: Puppet, bones: readonly string[]): -1 | 0 | 1 {
  const [a, b] = [boneOf(puppet, nth(bones, 0)), boneOf(puppet, nth(bones, -1))]
  const cross = (a.end.x - a.start.x) * (b.end.y - b.start.y) - (a.end.y - a.start.y) * (b.end.x - b.start.x)
  return Math.abs(cross) < 1 ? 0 : cross < 0 ? 1 : -1
}

export type Making = 'reach' | 'aim' | 'copy' | 'distance' | 'path'

const TITLES: Record<Making, (name: string) => string> = {
  reach: (name) => `${name} reaches`,
  aim: (name) => `${name} points`,
  copy: (name) => `${name} copies`,
  distance: (name) => `${name} keeps away`,
  path: (name) => `${name} on a path`,
}

/** Makes a constraint of a kind for a bone; returns its id, or null where it was refused. */
export function makeConstraint(editor: Editor, kind: Making, bone: string): string | null {
  const puppet = openPuppet(editor)
  const { name, start, end, parent } = boneOf(puppet, bone)
  const own = { id: freshId('constraint'), name: TITLES[kind](name), amount: 1 }
  const edits: Edit[] = []
  const target = (at: { x: number; y: number }, called = `${name} target`): string => {
    const id = freshId('target')
    edits.push(edit(addTarget, { id, name: called, at: { x: Math.round(at.x * 10) / 10, y: Math.round(at.y * 10) / 10 }, parent: null }))
    return id
  }
  const made = ((): Constraint => {
    switch (kind) {
      case 'reach': {
        const { bones, level } = limbOf(puppet, bone)
        const at = boneOf(puppet, nth(bones, -1)).end
        return { kind, ...own, bones, target: target(at), side: restSide(puppet, bones), soft: 0.05, stretch: 1, level, pole: null }
      }
      case 'aim':
        return { kind, ...own, bone, target: target({ x: 2 * end.x - start.x, y: 2 * end.y - start.y }) }
      case 'copy':
        return { kind, ...own, bone, from: parent ?? Object.keys(puppet.bones).find((b) => b !== bone) ?? bone, ratio: 0.5 }
      case 'distance':
        return { kind, ...own, bone, target: target(end), least: 0, most: Math.round(Math.hypot(end.x - start.x, end.y - start.y)) }
      case 'path': {
        const bones = limbUpTo(puppet, bone)
        const first = boneOf(puppet, nth(bones, 0))
        const middle = boneOf(puppet, nth(bones, bones.length >> 1)).start
        const targets =
          bones.length > 1 ? [target(middle, `${name} path 1`), target(end, `${name} path 2`)] : [target(end, `${first.name} path`)]
        return { kind, ...own, bones, targets }
      }
    }
  })()
  return perform(editor, [...edits, edit(addConstraint, { constraint: made })], made.name) ? made.id : null
}
