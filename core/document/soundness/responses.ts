/** Controls, responses, kept poses and keys: whatever they name is there. */
import { channelOf } from '../channels'
import { changeKey, type Puppet, type Response } from '../schema'
import type { Problem } from './problem'

/** Controls, responses, kept poses and keys name what exists. */
export function answerProblems(puppet: Puppet): Problem[] {
  const out: Problem[] = []
  const known = (path: string, address: string): void => {
    if (!channelOf(puppet, address)) out.push({ path, message: `names the channel "${address}", which does not exist` })
  }
  for (const { id, bone, ties, place } of puppet.controls) {
    if (bone !== null && !puppet.bones[bone]) out.push({ path: `controls.${id}`, message: `is the missing bone "${bone}"` })
    for (const tie of ties) known(`controls.${id}.ties`, tie.channel)
    if (place.on === 'stage' && place.part !== null && !puppet.parts[place.part])
      out.push({ path: `controls.${id}`, message: `is pinned to the missing part "${place.part}"` })
  }
  for (const response of puppet.responses) {
    out.push(...responseProblems(puppet, response, known))
  }
  for (const { id, values } of puppet.poses) {
    for (const address of Object.keys(values)) known(`poses.${id}`, address)
  }
  for (const { id, channel } of puppet.cues) {
    known(`cues.${id}`, channel)
  }
  return out
}

function responseProblems(puppet: Puppet, { id, inputs, stops }: Response, known: (path: string, address: string) => void): Problem[] {
  const out: Problem[] = []
  const path = `responses.${id}`
  for (const input of inputs) {
    if (input.kind === 'channel') known(path, input.channel)
    const bones =
      input.kind === 'speed'
        ? [input.bone]
        : input.kind === 'channel'
          ? []
          : [input.from, input.to].flatMap((s) => ('bone' in s ? [s.bone] : []))
    const targets =
      input.kind === 'distance' || input.kind === 'direction'
        ? [input.from, input.to].flatMap((s) => ('target' in s ? [s.target] : []))
        : []
    for (const bone of bones) if (!puppet.bones[bone]) out.push({ path, message: `listens to the missing bone "${bone}"` })
    for (const target of targets) if (!puppet.targets[target]) out.push({ path, message: `listens to the missing target "${target}"` })
  }
  const ids = new Set(stops.map((s) => s.id))
  if (ids.size < stops.length) out.push({ path, message: 'has two stops of one id' })
  if (new Set(stops.map((s) => s.at.join(' '))).size < stops.length) out.push({ path, message: 'has two stops in one place' })
  for (const { id: stop, changes } of stops) {
    const at = `${path}.stops.${stop}`
    if (new Set(changes.map(changeKey)).size < changes.length) out.push({ path: at, message: 'changes one thing twice' })
    for (const change of changes) {
      if (change.kind === 'channel' || change.kind === 'choice') known(at, change.channel)
      else if (!puppet.parts[change.part] || !puppet.drawings[change.drawing])
        out.push({ path: at, message: `changes the missing drawing "${change.drawing}" of "${change.part}"` })
    }
  }
  return out
}
