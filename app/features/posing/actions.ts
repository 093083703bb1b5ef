/** Back to rest. */
import { resetPose } from '@marionette/core/poses/commands'
import { addressesOf, movedChannels } from '@marionette/core/puppet/channels'
import { partsBelow } from '@marionette/core/parts/tree'
import { openPuppet, perform } from '../../editor/document'
import { toggleBones } from '../../editor/session'
import { edit } from '@marionette/core/kernel/command'
import { addressesOfDeformer } from '@marionette/core/deformers/channels'
import { deformersInViews } from '@marionette/core/deformers/stack'
import type { Action } from '../../panels/action'
import { anyChosen, chosen } from '../../panels/chosen'
import type { Editor } from '../../editor/editor'

/** Brings what is selected back to rest: its own channels, or with a part the channels of all in it. */
function resetSelected(editor: Editor): void {
  const puppet = openPuppet(editor)
  const bones = chosen(editor, 'bone').flatMap((id) => addressesOf('bone', id))
  const parts = chosen(editor, 'part').flatMap((id) =>
    partsBelow(puppet, id).flatMap((p) => [...addressesOf('part', p.id), ...deformersInViews(p).flatMap(addressesOfDeformer)]),
  )
  perform(editor, [edit(resetPose, { channels: [...bones, ...parts].filter((a) => a in puppet.pose) })])
}

export const POSING_ACTIONS: readonly Action[] = [
  {
    id: 'showBones',
    menu: { stage: 2 },
    label: 'Show or hide bones outside Bones',
    group: 'View',
    words: 'skeleton rods rig overlay',
    keys: 'shift+b',
    run: ({ editor }) => toggleBones(editor),
  },
  {
    id: 'pose.reset',
    menu: { part: 3, bone: 3 },
    label: 'Selection back to rest',
    group: 'Pose',
    keys: '0',
    enabled: anyChosen,
    run: ({ editor }) => resetSelected(editor),
  },
  {
    id: 'pose.resetAll',
    menu: { stage: 1 },
    label: 'Whole puppet back to rest',
    group: 'Pose',
    keys: 'shift+0',
    enabled: (editor) => movedChannels(openPuppet(editor)).length > 0,
    run: ({ editor }) => void perform(editor, [edit(resetPose, { channels: null })]),
  },
]
