/** Making bones from the selected ones. */
import { freshId } from '@marionette/core/document/ids'
import { bindHolder, bonesOfBind } from '@marionette/core/document/tree'
import {
  addChain,
  alignBones,
  copiedBones,
  distributeBones,
  insertBones,
  pasteBones,
  straightenBones,
} from '@marionette/core/edit/boneLines'
import { edit } from '@marionette/core/edit/command'
import { toast } from 'sonner'
import { bonesWithBranches, mirrorBones, splitBone } from '@marionette/core/edit/skeleton'
import { openPuppet, perform } from '../state/document'
import { selectBones } from '../state/session'

const names = (bones: readonly string[]): string => (bones.length === 1 ? openPuppet().bones[bones[0]!]!.name : `${bones.length} bones`)

/** Splits each bone into a number of equal ones and selects them all. */
export function splitSelected(bones: readonly string[], pieces: number): void {
  const made = bones.map((bone) => ({ bone, ids: Array.from({ length: pieces - 1 }, () => freshId('bone')) }))
  const label = `Split ${names(bones)} in ${pieces}`
  if (
    perform(
      made.map((args) => edit(splitBone, args)),
      label,
    )
  )
    selectBones(...made.flatMap(({ bone, ids }) => [bone, ...ids]))
}

/** Copies bones with their branches across an upright line (the middle of the canvas without one) and selects the copies. */
export function mirrorSelected(bones: readonly string[], at = openPuppet().canvas.width / 2): void {
  const ids = Object.fromEntries(bonesWithBranches(openPuppet(), bones).map((id) => [id, freshId('bone')]))
  const label = `Mirror ${names(bones)}`
  if (perform([edit(mirrorBones, { bones: [...bones], ids, at })], label)) selectBones(...bones.map((id) => ids[id]!))
}

export const straightenSelected = (bones: readonly string[]): void =>
  void perform([edit(straightenBones, { bones: [...bones] })], `Straighten ${names(bones)}`)

/** Brings the starts of bones to one upright line (x) or one height (y). */
export const alignSelected = (bones: readonly string[], axis: 'x' | 'y'): void =>
  void perform([edit(alignBones, { bones: [...bones], axis })], `Align ${names(bones)}`)

export const distributeSelected = (bones: readonly string[], axis: 'x' | 'y'): void =>
  void perform([edit(distributeBones, { bones: [...bones], axis })], `Distribute ${names(bones)}`)

/** Puts a bone between a bone and its parent, and selects it. */
export function insertBefore(bone: string): void {
  const id = freshId('bone')
  if (perform([edit(insertBones, { bone, ids: [id] })], `Insert a bone before ${names([bone])}`)) selectBones(id)
}

/** Lays a chain of bones along the middle of a part, hung from the bone that moves the part, and selects it. */
export async function chainThrough(part: string, count: number): Promise<void> {
  const puppet = openPuppet()
  const { name } = puppet.parts[part]!
  const bind = bindHolder(puppet, part)?.bind
  const parent = (bind && bonesOfBind(bind)[0]) ?? null
  try {
    const { chainAlong } = await import('@marionette/core/artwork/deforming')
    const joints = chainAlong(puppet, part, count, parent === null ? undefined : puppet.bones[parent]!.end)
    const ids = Array.from({ length: count }, () => freshId('bone'))
    if (perform([edit(addChain, { joints, ids, name, parent })], `Chain through ${name}`)) selectBones(...ids)
  } catch (error) {
    toast.error((error as Error).message)
  }
}

const CLIPBOARD = 'eager-marionette/bones'

/** Keeps bones with all that hangs from them, to be pasted here or into another puppet. */
export function copyBones(bones: readonly string[]): void {
  const copied = copiedBones(openPuppet(), bones)
  sessionStorage.setItem(CLIPBOARD, JSON.stringify(copied))
  toast(copied.length === 1 ? 'One bone copied.' : `${copied.length} bones copied.`)
}

export const hasCopiedBones = (): boolean => sessionStorage.getItem(CLIPBOARD) !== null

/** Puts the kept bones in, hung from a bone or from none, and selects them. */
export function pasteCopied(parent: string | null): void {
  const bones = JSON.parse(sessionStorage.getItem(CLIPBOARD) ?? '[]') as ReturnType<typeof copiedBones>
  const ids = bones.map(() => freshId('bone'))
  if (bones.length > 0 && perform([edit(pasteBones, { bones, ids, parent })], 'Paste bones')) selectBones(...ids)
}
