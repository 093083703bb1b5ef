/** Making bones from the selected ones. */
import { freshId } from '@marionette/core/document/ids'
import { edit } from '@marionette/core/edit/command'
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
