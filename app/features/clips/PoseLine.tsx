/** Whole poses on their line: small pictures that hang where they are in time. */
import { ContextMenu } from 'radix-ui'
import { useMemo, useState, type PointerEvent } from 'react'
import { edit } from '@marionette/core/kernel/command'
import { renameHungPose, moveHungPose } from '@marionette/core/clips/poseCommands'
import type { Clip, HungPose } from '@marionette/core/clips/records'
import { keyedPose } from '@marionette/core/playing/clips'
import { useEditor } from '../../editor/editor'
import { beginGesture, endGesture, perform, updateGesture, useDocument } from '../../editor/document'
import { usePicture } from '../../pictures/posePictures'
import { grip, GRIP } from '../../ui/grip'
import { MENU, MENU_ITEM } from '../../ui/menu'
import { NameInput } from '../../ui/NameInput'
import { seek, setActing, toFrame, useActing } from './acting'
import { copyPoseHere, holdChosen, removePose } from './keying'
import { useTimeScale } from './timeScale'
import { useEscape } from './useEscape'

export const POSE_LINE_HEIGHT = 74

export function PoseLine({ clip }: { clip: Clip }) {
  const scale = useTimeScale(clip)
  return (
    <div className="relative h-full min-w-0 flex-1 overflow-hidden" role="list" aria-label="Poses on the line">
      <svg className="pointer-events-none absolute top-0 left-0 h-3 w-full" aria-hidden>
        <path d={`M${scale.x(0)} 4H${scale.x(clip.length)}`} stroke="var(--ink)" strokeWidth="1.5" />
      </svg>
      {clip.poses.map((pose) => (
        <HungPicture key={pose.id} clip={clip} pose={pose} x={scale.x(pose.time)} />
      ))}
      {clip.poses.length === 0 && (
        <p className="cap absolute top-5 left-7">
          Pose the puppet, then add the pose: it hangs here, and the clip moves from pose to pose.
        </p>
      )}
    </div>
  )
}

function HungPicture({ clip, pose, x }: { clip: Clip; pose: HungPose; x: number }) {
  const editor = useEditor()
  const scale = useTimeScale(clip)
  const isOn = useActing((s) => s.pose === pose.id)
  const [isNamed, setNamed] = useState(false)
  const [drag, setDrag] = useState<{ x: number; time: number; hasMoved: boolean } | null>(null)
  const puppet = useDocument((s) => s.history?.puppet)
  const values = useMemo(() => (puppet ? keyedPose(puppet, clip, pose.time) : {}), [puppet, clip, pose.time])
  const url = usePicture(values, null, JSON.stringify(values))
  const end = (isKept: boolean): void => {
    if (drag?.hasMoved) endGesture(editor, isKept)
    else if (drag && isKept) seek(editor, pose.time)
    setDrag(null)
  }
  useEscape(drag !== null, () => end(false))
  const move = (e: PointerEvent): void => {
    if (!drag) return
    if (!drag.hasMoved) {
      if (Math.abs(e.clientX - drag.x) < 4) return
      beginGesture(editor, `Move ${pose.name}`)
      setDrag({ ...drag, hasMoved: true })
    }
    const to = Math.min(clip.length, Math.max(0, toFrame(clip, drag.time + (e.clientX - drag.x) / scale.perSecond)))
    updateGesture(editor, [edit(moveHungPose, { clip: clip.id, pose: pose.id, to, ripples: e.shiftKey })])
  }
  return (
    <ContextMenu.Root>
      <ContextMenu.Trigger asChild>
        <div
          role="listitem"
          aria-label={pose.name}
          aria-current={isOn}
          tabIndex={0}
          data-pose={pose.id}
          className={`absolute top-0 flex w-14 -translate-x-1/2 cursor-grab flex-col items-center ${GRIP}`}
          style={{ left: x }}
          onPointerDown={(e) => {
            if (e.button !== 0 || isNamed) return
            grip(e)
            setActing(editor, { pose: pose.id, keys: [] })
            setDrag({ x: e.clientX, time: pose.time, hasMoved: false })
          }}
          onPointerMove={move}
          onPointerUp={() => end(true)}
          onPointerCancel={() => end(false)}
          onDoubleClick={() => setNamed(true)}
          onKeyDown={(e) => {
            if (e.key !== 'Enter' && e.key !== 'Delete') return
            e.stopPropagation()
            if (e.key === 'Delete') return removePose(editor, pose.id)
            setActing(editor, { pose: pose.id, keys: [] })
            seek(editor, pose.time)
          }}
        >
          <i className={`h-2.5 w-1.5 rounded-sm ${isOn ? 'bg-cord' : 'bg-brass'}`} />
          <span
            className={`mt-0.5 grid size-11 place-items-center overflow-hidden rounded-lg bg-tint ${isOn ? 'outline-2 outline-cord' : ''}`}
          >
            {url && <img src={url} alt="" className="size-full object-contain" draggable={false} />}
          </span>
          {isNamed ? (
            <span className="w-20" onBlur={() => setNamed(false)}>
              <NameInput
                label="Name of the pose"
                name={pose.name}
                takesFocus
                onRename={(name) => perform(editor, [edit(renameHungPose, { clip: clip.id, pose: pose.id, name })])}
              />
            </span>
          ) : (
            <span className={`max-w-16 truncate text-[11px]/4 ${isOn ? 'font-[650]' : ''}`}>{pose.name}</span>
          )}
        </div>
      </ContextMenu.Trigger>
      <ContextMenu.Portal>
        <ContextMenu.Content className={MENU}>
          <Item onSelect={() => setTimeout(() => setNamed(true))}>Rename</Item>
          <Item onSelect={() => copyPoseHere(editor, pose.id, false)}>Copy to the moment looked at</Item>
          <Item onSelect={() => copyPoseHere(editor, pose.id, true)}>Copy there mirrored</Item>
          <Item onSelect={() => holdChosen(editor, pose.id)}>Hold until the moment looked at</Item>
          <Item onSelect={() => removePose(editor, pose.id)}>Delete pose</Item>
        </ContextMenu.Content>
      </ContextMenu.Portal>
    </ContextMenu.Root>
  )
}

const Item = ({ onSelect, children }: { onSelect: () => void; children: string }) => (
  <ContextMenu.Item className={MENU_ITEM} onSelect={onSelect}>
    {children}
  </ContextMenu.Item>
)
