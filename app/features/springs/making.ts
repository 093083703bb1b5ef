/** Springs made from what is selected, and what keeps them out. */
import { boneOf } from '@marionette/core/bones/lookup'
import { bonesInOrder, topmostBones } from '@marionette/core/bones/tree'
import { partsOfBone } from '@marionette/core/binds/tree'
import { edit } from '@marionette/core/kernel/command'
import { freeName } from '@marionette/core/kernel/freeName'
import { freshId } from '@marionette/core/kernel/ids'
import { nth } from '@marionette/core/kernel/sure'
import { restBounds } from '@marionette/core/parts/tree'
import type { Puppet } from '@marionette/core/puppet/schema'
import { addCollider, addSprings, deleteSprings, setSprings } from '@marionette/core/springs/commands'
import { characterOf } from '@marionette/core/springs/characters'
import { newCapsule, newSpringGroup } from '@marionette/core/springs/new'
import type { SpringGroup } from '@marionette/core/springs/records'
import { openPuppet, perform } from '../../editor/document'
import type { Editor } from '../../editor/editor'

const COLOURS = ['#1e7a6b', '#b27e1e', '#2d3a9e', '#a83279', '#3d7d2a', '#7a3e9d', '#b8572a', '#2a7fa8']

/** The group that a bone swings in. */
export const springsOfBone = ({ springs }: Pick<Puppet, 'springs'>, bone: string): SpringGroup | undefined =>
  springs.find(({ bones }) => bones.includes(bone))

/** Bones that swing when a selection is to: one bone with all that hangs from it and does not swing yet, or just those that are selected. */
export const bonesToSwing = (puppet: Puppet, ids: readonly string[]): string[] =>
  ids.length === 1 ? bonesInOrder(puppet, ids).flatMap(({ id }) => (springsOfBone(puppet, id) ? [] : [id])) : [...ids]

/** Lets bones swing in a group of their own. */
export function makeSprings(editor: Editor, ids: readonly string[], character: string): void {
  const puppet = openPuppet(editor)
  const bones = bonesToSwing(puppet, ids)
  if (bones.length === 0) return void editor.notify('Select a bone first: it swings with all that hangs from it.')
  const [first = nth(bones, 0)] = topmostBones(puppet, bones)
  const colour = nth(COLOURS, puppet.springs.length % COLOURS.length)
  const name = freeName(puppet.springs, boneOf(puppet, first).name)
  const spring = newSpringGroup(freshId('spring'), name, bones, characterOf(character), colour)
  perform(editor, [edit(addSprings, { spring })], `Let ${name} swing`)
}

/** Takes a bone out of its group, as a finding says; it stays where it is. */
export function leaveOut(editor: Editor, bone: string): void {
  const spring = springsOfBone(openPuppet(editor), bone)
  if (!spring) return
  const bones = spring.bones.filter((id) => id !== bone)
  // A group without any bone is none.
  const left = bones.length > 0 ? edit(setSprings, { id: spring.id, bones }) : edit(deleteSprings, { id: spring.id })
  perform(editor, [left], 'Leave bone out of the springs')
}

/** Mutes all groups but one, or lets all swing again where that is so already. */
export function swingAlone(editor: Editor, id: string): void {
  const { springs } = openPuppet(editor)
  const isAlone = springs.every((s) => s.muted === (s.id !== id))
  perform(
    editor,
    springs.map((s) => edit(setSprings, { id: s.id, muted: !isAlone && s.id !== id })),
    isAlone ? 'All springs' : 'These springs alone',
  )
}

/** Share of the smaller side of what a bone moves that its capsule is thick, to either side. */
const THICK = 0.4

/** How thick the body about a bone is, px: by what is drawn of it, else by its length. */
function radiusAbout(puppet: Puppet, bone: string): number {
  const boxes = partsOfBone(puppet, bone).flatMap(({ id }) => restBounds(puppet, id) ?? [])
  const { start, end } = boneOf(puppet, bone)
  const sides = boxes.map((box) => Math.min(box.maxX - box.minX, box.maxY - box.minY))
  const drawn = sides.length > 0 ? THICK * Math.max(...sides) : 0.25 * Math.hypot(end.x - start.x, end.y - start.y)
  return Math.round(Math.max(2, drawn))
}

/** Keeps springs out of the body about a bone. */
export function addBody(editor: Editor, bone: string): void {
  const puppet = openPuppet(editor)
  const { name } = boneOf(puppet, bone)
  const collider = newCapsule(freshId('collider'), name, bone, radiusAbout(puppet, bone))
  perform(editor, [edit(addCollider, { collider })], `Keep springs out of ${name}`)
}
