/** Poses that were kept, as pictures: a click takes one up, dragging sideways blends towards it. */
import { Camera, X } from 'lucide-react'
import { movedChannels } from '@marionette/core/puppet/channels'
import { freshId } from '@marionette/core/kernel/ids'
import type { SavedPose } from '@marionette/core/puppet/schema'
import { applyPose, forgetPose, keepPose, renamePose } from '@marionette/core/poses/saved'
import { useBlend } from './blend'
import { usePosePicture } from '../../pictures/posePictures'
import { beginGesture, endGesture, openPuppet, perform, updateGesture, usePuppet } from '../../editor/document'
import { addressesOfChosen } from '../../panels/chosen'
import { Button } from '../../ui/Button'
import { edit } from '@marionette/core/kernel/command'
import { mirroredPose } from '@marionette/core/puppet/mirror'
import { useEditor, type Editor } from '../../editor/editor'
import { recordOf } from '@marionette/core/kernel/sure'

function keepPresent(editor: Editor): void {
  const puppet = openPuppet(editor)
  const channels = movedChannels(puppet)
  const name = `Pose ${puppet.poses.length + 1}`
  perform(
    editor,
    [
      edit(keepPose, {
        pose: { id: freshId('pose'), name, values: Object.fromEntries(channels.map((a) => [a, recordOf(puppet.pose, a)])), face: null },
      }),
    ],
    `Keep ${name}`,
  )
}

function keepMirrored(editor: Editor, pose: SavedPose): void {
  const values = mirroredPose(openPuppet(editor), pose.values)
  perform(
    editor,
    [edit(keepPose, { pose: { id: freshId('pose'), name: `${pose.name}, mirrored`, values, face: pose.face } })],
    `Mirror ${pose.name}`,
  )
}

export function PoseStrip() {
  const editor = useEditor()
  const all = usePuppet((p) => p.poses)
  // Moods and sounds hang on the board of the face.
  const poses = all.filter((p) => p.face === null)
  const posed = usePuppet((p) => movedChannels(p).length)
  return (
    <div className="mt-2 flex items-center gap-2 border-t border-hair pt-2 pl-1" aria-label="Kept poses" role="group">
      <Button small disabled={posed === 0} onClick={() => keepPresent(editor)}>
        <Camera size={13} /> Keep pose
      </Button>
      {poses.length === 0 && <span className="cap">Poses that you keep hang here: click to take one up, drag across it to blend.</span>}
      <div className="scroll-thin flex min-w-0 flex-1 gap-2 overflow-x-auto">
        {poses.map((pose) => (
          <PosePicture key={pose.id} pose={pose} />
        ))}
      </div>
    </div>
  )
}

function PosePicture({ pose }: { pose: SavedPose }) {
  const editor = useEditor()
  const url = usePosePicture(pose)
  // A pose is taken up for what is selected alone.
  const only = addressesOfChosen(editor, Object.keys(pose.values))
  const apply = (share: number) => edit(applyPose, { pose: pose.id, share, only: only && only.length > 0 ? only : null })
  const blend = useBlend({
    begin: () => beginGesture(editor, `Blend to ${pose.name}`),
    move: (share) => updateGesture(editor, [apply(share)]),
    end: (kept) => endGesture(editor, kept),
    click: () => void perform(editor, [apply(1)], `Take up ${pose.name}`),
  })
  return (
    <figure className="group relative w-[62px] flex-none">
      <button
        type="button"
        aria-label={`Take up ${pose.name}`}
        title="Click to take it up, drag sideways to blend, double-click to mirror"
        className="block size-[62px] touch-none overflow-hidden rounded-lg bg-[var(--stage)] hover:shadow-[0_0_0_2px_var(--twine)]"
        {...blend}
        onDoubleClick={() => keepMirrored(editor, pose)}
        onKeyDown={(e) => e.key === 'Enter' && perform(editor, [apply(1)], `Take up ${pose.name}`)}
      >
        {url && <img src={url} alt="" draggable={false} className="size-full object-contain" />}
      </button>
      <input
        aria-label={`Name of ${pose.name}`}
        defaultValue={pose.name}
        key={pose.name}
        className="cap w-full truncate bg-transparent text-center outline-none focus:bg-tint"
        onBlur={(e) => {
          const name = e.target.value.trim()
          if (name && name !== pose.name) perform(editor, [edit(renamePose, { pose: pose.id, name })])
        }}
        onKeyDown={(e) => {
          e.stopPropagation()
          if (e.key === 'Enter') e.currentTarget.blur()
        }}
      />
      <button
        type="button"
        aria-label={`Forget ${pose.name}`}
        className="absolute top-0.5 right-0.5 grid size-4 place-items-center rounded-full bg-panel text-quiet opacity-0 group-hover:opacity-100 focus:opacity-100"
        onClick={() => perform(editor, [edit(forgetPose, { pose: pose.id })], `Forget ${pose.name}`)}
      >
        <X size={11} />
      </button>
    </figure>
  )
}
