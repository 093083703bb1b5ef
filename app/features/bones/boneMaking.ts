/** Making bones from the selected ones. */
import { counted } from '@marionette/core/kernel/counted'
import { freshId } from '@marionette/core/kernel/ids'
import {
  addChain,
  alignBones,
  copiedBones,
  distributeBones,
  insertBones,
  pasteBones,
  reverseBones,
  straightenBones,
} from '@marionette/core/skeleton/lines'
import { bonesWithBranches, mirrorBones, splitBone } from '@marionette/core/skeleton/commands'
import { openPuppet, perform } from '../../editor/document'
import { selectBones } from '../../editor/session'
import { edit } from '@marionette/core/kernel/command'
import { bindHolder, bonesOfBind } from '@marionette/core/binds/tree'
import type { Editor } from '../../editor/editor'
import { nth, recordOf } from '@marionette/core/kernel/sure'
import { boneOf } from '@marionette/core/bones/lookup'
import { partOf } from '@marionette/core/parts/lookup'

const names = (editor: Editor, bones: readonly string[]): string =>
  bones.length === 1 ? boneOf(openPuppet(editor), nth(bones, 0)).name : `${bones.length} bones`

/** Splits each bone into a number of equal ones and selects them all. */
export function splitSelected(editor: Editor, bones: readonly string[], pieces: number): void {
  const made = bones.map((bone) => ({ bone, ids: Array.from({ length: pieces - 1 }, () => freshId('bone')) }))
  const label = `Split ${names(editor, bones)} in ${pieces}`
  if (
    perform(
      editor,
      made.map((args) => edit(splitBone, args)),
      label,
    )
  )
    selectBones(editor, ...made.flatMap(({ bone, ids }) => [bone, ...ids]))
}

/** Copies bones with their branches across an upright line (the middle of the canvas without one) and selects the copies. */
export function mirrorSelected(editor: Editor, bones: readonly string[], at = openPuppet(editor).canvas.width / 2): void {
  const ids = Object.fromEntries(bonesWithBranches(openPuppet(editor), bones).map((id) => [id, freshId('bone')]))
  const label = `Mirror ${names(editor, bones)}`
  if (perform(editor, [edit(mirrorBones, { bones: [...bones], ids, at })], label))
    selectBones(editor, ...bones.map((id) => recordOf(ids, id)))
}

export const straightenSelected = (editor: Editor, bones: readonly string[]): void =>
  void perform(editor, [edit(straightenBones, { bones: [...bones] })], `Straighten ${names(editor, bones)}`)

/** Lets chains run the other way round. */
export const reverseSelected = (editor: Editor, bones: readonly string[]): void =>
  void perform(editor, [edit(reverseBones, { bones: [...bones] })], `Reverse ${names(editor, bones)}`)

/** Brings the starts of bones to one upright line (x) or one height (y). */
export const alignSelected = (editor: Editor, bones: readonly string[], axis: 'x' | 'y'): void =>
  void perform(editor, [edit(alignBones, { bones: [...bones], axis })], `Align ${names(editor, bones)}`)

export const distributeSelected = (editor: Editor, bones: readonly string[], axis: 'x' | 'y'): void =>
  void perform(editor, [edit(distributeBones, { bones: [...bones], axis })], `Distribute ${names(editor, bones)}`)

/** Puts a bone between a bone and its parent, and selects it. */
export function insertBefore(editor: Editor, bone: string): void {
  const id = freshId('bone')
  if (perform(editor, [edit(insertBones, { bone, ids: [id] })], `Insert a bone before ${names(editor, [bone])}`)) selectBones(editor, id)
}

/** Lays a chain of bones along the middle of a part, hung from the bone that moves the part, and selects it. */
export async function chainThrough(editor: Editor, part: string, count: number): Promise<void> {
  const puppet = openPuppet(editor)
  const { name } = partOf(puppet, part)
  const bind = bindHolder(puppet, part)?.bind
  const parent = (bind && bonesOfBind(bind)[0]) ?? null
  try {
    const { chainAlong } = await import('@marionette/core/binds/fitDeformers')
    const begin = (await editor.jobs.attachedAt(puppet, part)) ?? (parent === null ? undefined : boneOf(puppet, parent).end)
    const joints = chainAlong(puppet, part, count, begin)
    const ids = Array.from({ length: count }, () => freshId('bone'))
    if (perform(editor, [edit(addChain, { joints, ids, name, parent })], `Chain through ${name}`)) selectBones(editor, ...ids)
  } catch (error) {
    editor.notify.error((error as Error).message)
  }
}

const CLIPBOARD = 'eager-marionette/bones'

/** Keeps bones with all that hangs from them, to be pasted here or into another puppet. */
export function copyBones(editor: Editor, bones: readonly string[]): void {
  const copied = copiedBones(openPuppet(editor), bones)
  sessionStorage.setItem(CLIPBOARD, JSON.stringify(copied))
  editor.notify(`${counted(copied.length, 'bone')} copied.`)
}

export const hasCopiedBones = (): boolean => sessionStorage.getItem(CLIPBOARD) !== null

/** Puts the kept bones in, hung from a bone or from none, and selects them. */
export function pasteCopied(editor: Editor, parent: string | null): void {
  const bones = JSON.parse(sessionStorage.getItem(CLIPBOARD) ?? '[]') as ReturnType<typeof copiedBones>
  const ids = bones.map(() => freshId('bone'))
  if (bones.length > 0 && perform(editor, [edit(pasteBones, { bones, ids, parent })], 'Paste bones')) selectBones(editor, ...ids)
}
