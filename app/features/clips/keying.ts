/** What is done to the open clip from buttons, keys and menus. */
import { boneChannel } from '@marionette/core/bones/channels'
import { limbUpTo } from '@marionette/core/bones/tree'
import { counted } from '@marionette/core/kernel/counted'
import { freshId } from '@marionette/core/kernel/ids'
import { edit } from '@marionette/core/kernel/command'
import { isSameTime, keysOf } from '@marionette/core/clips/lookup'
import { addClip, dropLoose, keepLoose } from '@marionette/core/clips/commands'
import type { Ease } from '@marionette/core/clips/easing'
import { deleteKeys, easeKeys, pasteKeys, setKeys, setKeyWay } from '@marionette/core/clips/keyCommands'
import { anticipate, followLate, overshoot, settle } from '@marionette/core/clips/moveCommands'
import { newClip } from '@marionette/core/clips/new'
import { breakDown, copyHungPose, deleteHungPose, hangPose, holdPose } from '@marionette/core/clips/poseCommands'
import { SAME_TIME, type Clip, type HungPose, type Key, type KeyWay } from '@marionette/core/clips/records'
import { channelOf, movedChannels } from '@marionette/core/puppet/channels'
import { valuesInClip } from '@marionette/core/playing/clips'
import { openPuppet, perform, useDocument } from '../../editor/document'
import { useSession } from '../../editor/session'
import { editorState, type Editor } from '../../editor/editor'
import { addressesOfChosen, chosen } from '../../panels/chosen'
import { chosenSet, isChosen } from './drawLanes'
import { removeSound } from './sounds'
import { clipNow, freeClipName, layerNow, openClip, seek, setActing, toFrame, useActing } from './acting'

/** Adds a clip and opens it. What is posed is its first pose, so that it begins as the puppet stands. */
export function makeClip(editor: Editor): void {
  const id = freshId('clip')
  const clip = newClip(id, freeClipName(editor, 'Clip'))
  // The puppet as it is posed at the other benches, not as another clip has it.
  const puppet = useDocument.of(editor).getState().history?.puppet ?? openPuppet(editor)
  const values = Object.fromEntries(movedChannels(puppet).map((address) => [address, puppet.pose[address] ?? 0]))
  const pose = { id: freshId('pose'), name: 'Start', time: 0 }
  const first = Object.keys(values).length > 0 ? [edit(hangPose, { clip: id, layer: `${id}-base`, pose, values })] : []
  if (perform(editor, [edit(addClip, { clip }), ...first], 'New clip')) openClip(editor, id)
}

/** Runs something with the open clip, if there is one. */
function withClip(editor: Editor, work: (clip: Clip, layer: string, time: number) => void): void {
  const clip = clipNow(editor)
  if (clip) work(clip, layerNow(editor, clip), toFrame(clip, useActing.of(editor).getState().time))
}

/** Keeps what is posed and not keyed: as keys at the moment that is looked at. */
export const keepAsKeys = (editor: Editor): void =>
  withClip(editor, (clip, layer, time) => void perform(editor, [edit(keepLoose, { clip: clip.id, layer, time })]))

export const dropUnkeyed = (editor: Editor): void => withClip(editor, (clip) => void perform(editor, [edit(dropLoose, { clip: clip.id })]))

/** Values of a whole pose at a moment: of all that is keyed or posed. */
function wholePose(editor: Editor, clip: Clip, time: number): Record<string, number> {
  const puppet = useDocument.of(editor).getState().history?.puppet ?? openPuppet(editor)
  return { ...valuesInClip(puppet, clip, time), ...clip.loose }
}

/** Hangs the present pose on the line. */
export function addPose(editor: Editor): void {
  withClip(editor, (clip, layer, time) => {
    const pose = { id: freshId('pose'), name: `Pose ${clip.poses.length + 1}`, time }
    if (perform(editor, [edit(hangPose, { clip: clip.id, layer, pose, values: wholePose(editor, clip, time) })], `Add ${pose.name}`))
      setActing(editor, { pose: pose.id })
  })
}

/** A key for each channel of what is selected, or for all that the clip moves, as they are at the moment. */
export function keyNow(editor: Editor): void {
  withClip(editor, (clip, layer, time) => {
    const values = wholePose(editor, clip, time)
    const puppet = openPuppet(editor)
    const own = addressesOfChosen(editor, Object.keys(values))
    // A bone that nothing moves yet can be keyed at rest.
    const { selection } = useSession.of(editor).getState()
    const more = own?.length === 0 && selection.kind === 'bone' ? selection.ids.map((id) => `bone/${id}/angle`) : []
    const channels = own ? [...own, ...more] : Object.keys(values)
    if (channels.length === 0) return void editor.notify('Nothing moves yet: pose something, or select a bone.')
    const keys = channels.map((channel) => ({ channel, time, value: values[channel] ?? channelOf(puppet, channel)?.rest ?? 0 }))
    perform(editor, [edit(setKeys, { clip: clip.id, layer, keys })], 'Key')
  })
}

/** Poses before and after a moment. */
function neighbours(clip: Clip, time: number): { before: HungPose | undefined; after: HungPose | undefined } {
  return {
    before: clip.poses.filter((p) => p.time < time && !isSameTime(p.time, time)).at(-1),
    after: clip.poses.find((p) => p.time > time && !isSameTime(p.time, time)),
  }
}

/** Adds a breakdown at the moment between the poses around it: for what is selected, or for everything. */
export function addBreakdown(editor: Editor, share: number): void {
  withClip(editor, (clip, layer, time) => {
    const { before, after } = neighbours(clip, time)
    if (!before || !after) return void editor.notify('A breakdown lies between two poses: look at a moment between them.')
    const only = addressesOfChosen(
      editor,
      [...keysOf(clip)].map(({ channel }) => channel),
    )
    const pose = { id: freshId('pose'), name: 'Breakdown', time }
    const args = {
      clip: clip.id,
      layer,
      from: before.id,
      to: after.id,
      pose,
      share,
      only: only && only.length > 0 ? [...new Set(only)] : null,
    }
    if (perform(editor, [edit(breakDown, args)])) setActing(editor, { pose: pose.id })
  })
}

const ACCENTS = { anticipation: anticipate, overshoot, settle } as const

/** Adds anticipation before, or overshoot after, the move that the moment lies in. */
export function accent(editor: Editor, which: keyof typeof ACCENTS, amount: number, frames: number): void {
  withClip(editor, (clip, layer, time) => {
    const { before, after } = movesAt(clip, time)
    if (!before || !after) return void editor.notify('Look at a moment between two poses: that move gets it.')
    const args = { clip: clip.id, layer, from: before.id, to: after.id, amount, seconds: frames / clip.rate, only: null }
    perform(editor, [edit(ACCENTS[which], args)])
  })
}

/** What each link of a chain adds to the lateness, of what the one before it adds. */
const FALLOFF = 0.6

/** Lets the limb whose end is selected come late to the pose after the moment: the forearm after the arm, the hand after the forearm. */
export function followChain(editor: Editor, frames: number): void {
  withClip(editor, (clip, layer, time) => {
    const [bone] = chosen(editor, 'bone')
    const limb = bone === undefined ? [] : limbUpTo(openPuppet(editor), bone)
    if (limb.length < 2) return void editor.notify('Select the end of a chain first: a hand, a foot, the tip of a scarf.')
    const { before, after } = movesAt(clip, time)
    if (!before || !after) return void editor.notify('Look at a moment between two poses: what moves there comes late.')
    const channels = limb.map((id) => boneChannel(id, 'angle'))
    const span = { from: before.time + SAME_TIME, to: after.time }
    perform(editor, [edit(followLate, { clip: clip.id, layer, channels, ...span, seconds: frames / clip.rate, falloff: FALLOFF })])
  })
}

/** The two poses of the move that a moment lies in; at a pose it is the move that comes to it. */
function movesAt(clip: Clip, time: number): { before: HungPose | undefined; after: HungPose | undefined } {
  const at = clip.poses.findIndex((p) => isSameTime(p.time, time))
  if (at > 0) return { before: clip.poses[at - 1], after: clip.poses[at] }
  if (at === 0) return { before: clip.poses[0], after: clip.poses[1] }
  return neighbours(clip, time)
}

/** Holds the chosen pose until the moment, or some frames long where that is not after it. */
export function holdChosen(editor: Editor, id: string): void {
  withClip(editor, (clip, _, time) => {
    const pose = clip.poses.find((p) => p.id === id)
    if (!pose) return
    const until = time > pose.time ? time : pose.time + Math.max(2, Math.round(clip.rate / 4)) / clip.rate
    perform(editor, [edit(holdPose, { clip: clip.id, pose: id, id: freshId('pose'), until })])
  })
}

/** Copies a pose to the moment that is looked at. */
export function copyPoseHere(editor: Editor, id: string, mirrored: boolean): void {
  withClip(editor, (clip, _, time) => {
    const pose = clip.poses.find((p) => p.id === id)
    if (!pose) return
    if (isSameTime(pose.time, time)) return void editor.notify('Look at another moment: the copy is put there.')
    const copy = freshId('pose')
    const label = mirrored ? 'Paste pose mirrored' : 'Copy pose'
    if (perform(editor, [edit(copyHungPose, { clip: clip.id, pose: id, id: copy, to: time, mirrored })], label))
      setActing(editor, { pose: copy })
  })
}

export const removePose = (editor: Editor, id: string): void =>
  withClip(editor, (clip) => {
    if (perform(editor, [edit(deleteHungPose, { clip: clip.id, pose: id })])) setActing(editor, { pose: null })
  })

/** Deletes the chosen keys, or the chosen pose. */
export function deleteChosen(editor: Editor): void {
  withClip(editor, (clip, layer) => {
    const { keys, pose, sound } = useActing.of(editor).getState()
    if (keys.length > 0) {
      if (perform(editor, [edit(deleteKeys, { clip: clip.id, layer, keys: [...keys] })])) setActing(editor, { keys: [] })
    } else if (sound !== null && clip.sounds.some((s) => s.id === sound)) removeSound(editor, sound)
    else if (pose !== null && clip.poses.some((p) => p.id === pose)) removePose(editor, pose)
  })
}

/** How the curves go through the chosen keys. */
export function setWay(editor: Editor, way: KeyWay): void {
  withClip(editor, (clip, layer) => {
    const { keys } = useActing.of(editor).getState()
    if (keys.length > 0) perform(editor, [edit(setKeyWay, { clip: clip.id, layer, keys: [...keys], way })])
  })
}

/** Gives the curve at the chosen keys a character. */
export function easeChosen(editor: Editor, ease: Ease): void {
  withClip(editor, (clip, layer) => {
    const { keys } = useActing.of(editor).getState()
    if (keys.length > 0) perform(editor, [edit(easeKeys, { clip: clip.id, layer, keys: [...keys], ease })])
  })
}

/** Keys that were copied, with the time of the first of them. */
const copied = editorState((): { keys: readonly { channel: string; key: Key }[]; from: number } => ({ keys: [], from: 0 }))

export function copyChosen(editor: Editor): void {
  withClip(editor, (clip, layer) => {
    const chosenKeys = chosenSet(useActing.of(editor).getState().keys)
    const keys = [...keysOf(clip)]
      .filter((k) => k.layer.id === layer && isChosen(chosenKeys, k.channel, k.key.time))
      .map(({ channel, key }) => ({ channel, key }))
    if (keys.length === 0) return
    Object.assign(copied(editor), { keys, from: Math.min(...keys.map(({ key }) => key.time)) })
    editor.notify(`${counted(keys.length, 'key')} copied.`)
  })
}

export const hasCopied = (editor: Editor): boolean => copied(editor).keys.length > 0

/** Puts copied keys at the moment; keys of one channel go to the chosen one, where another is chosen. */
export function pasteHere(editor: Editor): void {
  withClip(editor, (clip, layer, time) => {
    const { keys, from } = copied(editor)
    const sources = new Set(keys.map(({ channel }) => channel))
    const targets = new Set(
      useActing
        .of(editor)
        .getState()
        .keys.map(({ channel }) => channel),
    )
    const [only] = targets
    const isOther = sources.size === 1 && targets.size === 1 && only !== undefined
    const placed = keys.map(({ channel, key }) => ({
      channel: isOther ? only : channel,
      key: { ...key, time: toFrame(clip, key.time - from + time) },
    }))
    if (placed.length === 0 || !perform(editor, [edit(pasteKeys, { clip: clip.id, layer, keys: placed })])) return
    setActing(editor, { keys: placed.map(({ channel, key }) => ({ channel, time: key.time })), pose: null })
  })
}

/** Goes to the next or the previous time at which anything in the open layer has a key. */
export function goToKey(editor: Editor, step: 1 | -1): void {
  withClip(editor, (clip, layer, time) => {
    const times = [...keysOf(clip)].filter((k) => k.layer.id === layer).map(({ key }) => key.time)
    const beyond = times.filter((t) => (step > 0 ? t > time : t < time) && !isSameTime(t, time))
    if (beyond.length > 0) seek(editor, step > 0 ? Math.min(...beyond) : Math.max(...beyond))
  })
}

export const goByFrames = (editor: Editor, frames: number): void =>
  withClip(editor, (clip, _, time) => seek(editor, toFrame(clip, time) + frames / clip.rate))

/** Goes to the frame that is nearest to the next beat, or the one before. */
export function goToBeat(editor: Editor, step: 1 | -1): void {
  withClip(editor, (clip, _, time) => {
    if (!clip.tempo) return
    const beat = 60 / clip.tempo.perMinute
    // The moment is on a frame, which may lie a little beside its beat.
    const at = (time - clip.tempo.first) / beat
    const near = 0.5 / (clip.rate * beat)
    const next = step > 0 ? Math.floor(at + near) + 1 : Math.ceil(at - near) - 1
    seek(editor, toFrame(clip, Math.min(clip.length, Math.max(0, clip.tempo.first + next * beat))))
  })
}
