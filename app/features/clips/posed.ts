/** What is posed while a clip is open: it becomes keys, or lies over the clip until it is kept. */
import { commandsOf } from '@marionette/core/kernel/capability'
import { edit, type Command, type Edit } from '@marionette/core/kernel/command'
import { clips } from '@marionette/core/clips/capability'
import type { Clip } from '@marionette/core/clips/records'
import { channelOf } from '@marionette/core/puppet/channels'
import { isSameBut } from '@marionette/core/puppet/touched'
import type { Puppet } from '@marionette/core/puppet/schema'
import { setLoose } from '@marionette/core/clips/commands'
import { setKeys } from '@marionette/core/clips/keyCommands'
import { setPose } from '@marionette/core/poses/commands'
import { viewChannel } from '@marionette/core/views/channels'
import { viewValue } from '@marionette/core/views/views'
import { layAround, type Redirect } from '../../editor/document'
import type { Editor } from '../../editor/editor'
import { isReshaping, shapedByHand } from './handShape'
import { clipNow, isActing, layerNow, seenInClip, toFrame, useActing } from './acting'

const ON_CLIPS: ReadonlySet<Command> = new Set(commandsOf(clips))

/** Channels of two poses that differ, with their values in the second. */
function changedValues(before: Puppet, after: Puppet): Record<string, number> {
  const addresses = new Set([...Object.keys(before.pose), ...Object.keys(after.pose)])
  addresses.delete(viewChannel(before))
  const out: Record<string, number> = {}
  for (const address of addresses) {
    const channel = channelOf(after, address)
    if (!channel) continue
    const [was, is] = [before.pose[address] ?? channel.rest, after.pose[address] ?? channel.rest]
    if (was !== is) out[address] = is
  }
  return out
}

/** An edit of what differs between views, made in the view that is seen, where the puppet itself is written in another one. */
function inViewSeen(puppet: Puppet, seen: Puppet, one: Edit): Edit[] {
  if (seen.view === puppet.view) return [one]
  const showing = (view: string): Edit => edit(setPose, { values: { [viewChannel(puppet)]: viewValue(puppet, view) } })
  return [showing(seen.view), one, showing(puppet.view)]
}

/** Edits that key values at the moment that is looked at, on the open layer. What lies unkeyed over them gives way. */
export function keyEdits(editor: Editor, clip: Clip, values: Readonly<Record<string, number>>): Edit[] {
  const time = toFrame(clip, useActing.of(editor).getState().time)
  const keys = Object.entries(values).map(([channel, value]) => ({ channel, time, value }))
  const loose = Object.keys(values).filter((address) => address in clip.loose)
  const freed = loose.length > 0 ? [edit(setLoose, { clip: clip.id, values: Object.fromEntries(loose.map((a) => [a, null])) })] : []
  return [edit(setKeys, { clip: clip.id, layer: layerNow(editor, clip), keys }), ...freed]
}

/** Edits that only pose go into the clip; all others go where they always go. */
function poseInstead(editor: Editor, puppet: Puppet, edits: readonly Edit[], apply: Parameters<Redirect>[2]): readonly Edit[] {
  const clip = clipNow(editor)
  if (!clip) return edits
  const out: Edit[] = []
  let seen = seenInClip(editor, puppet)
  const values: Record<string, number> = {}
  for (const one of edits) {
    // What is done to clips themselves poses nothing.
    if (ON_CLIPS.has(one.command)) {
      out.push(one)
      continue
    }
    const after = apply(seen, [one])
    if (after.view !== seen.view) values[viewChannel(after)] = viewValue(after, after.view)
    else if (isSameBut(seen, after, 'pose')) Object.assign(values, changedValues(seen, after))
    else if (isReshaping(seen, after)) {
      const soFar = out.length > 0 ? apply(puppet, out) : puppet
      out.push(...shapedByHand(editor, soFar, clip, { one, seen, after }, apply))
    } else out.push(...inViewSeen(puppet, seen, one))
    seen = after
  }
  if (Object.keys(values).length === 0) return out
  if (!useActing.of(editor).getState().isAutoKey) return [...out, edit(setLoose, { clip: clip.id, values })]
  return [...out, ...keyEdits(editor, clip, values)]
}

/** Lays the open clip around all edits; returns how to end this. */
export const layClipAround = (editor: Editor): (() => void) =>
  layAround(editor, {
    isOn: () => isActing(editor),
    redirect: (puppet, edits, apply) => poseInstead(editor, puppet, edits, apply),
    seen: (puppet) => seenInClip(editor, puppet),
  })
