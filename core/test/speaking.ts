/** A puppet that speaks. */
import { makeSwap, setSwap } from '../alternates/commands'
import { addClip } from '../clips/commands'
import { newClip } from '../clips/new'
import { addControl } from '../controls/commands'
import { newControl } from '../controls/new'
import { recordOf, sure } from '../kernel/sure'
import { newPart } from '../parts/new'
import { addArtwork } from '../puppet/artworkCommands'
import { run } from '../puppet/edit'
import { newPuppet } from '../puppet/new'
import type { Puppet } from '../puppet/schema'

/** A mouth of two controls, and one of alternates that morph; with an empty clip of four seconds. */
export function speakingPuppet(): Puppet {
  let puppet = newPuppet('p', 'P', { width: 100, height: 100 })
  const parts = [newPart('mouth', 'Mouth'), ...['shut', 'agape'].map((id) => ({ ...newPart(id, id), parent: 'mouth' }))]
  puppet = run(run(puppet, addArtwork, { parent: puppet.root, parts, drawings: [] }), makeSwap, { group: 'mouth' })
  const swap = sure(recordOf(puppet.parts, 'mouth').swap)
  const sets = [{ name: 'Everyday', sounds: { rest: 1, aa: 2, mbp: 1 } }]
  puppet = run(puppet, setSwap, { part: 'mouth', swap: { ...swap, morph: { how: 'morph', seconds: 0.1, eases: true }, sets } })
  for (const voice of ['open', 'wide'] as const)
    puppet = run(puppet, addControl, { control: { ...newControl(voice, voice), voice, range: { min: 0, max: 1, rest: 0 } } })
  return run(puppet, addClip, { clip: newClip('talk', 'Talk', { length: 4 }) })
}
