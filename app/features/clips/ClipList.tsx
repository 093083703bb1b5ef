/** Left in Rehearse: the clips of the puppet as pictures. */
import { Gauge, Plus } from 'lucide-react'
import { ContextMenu } from 'radix-ui'
import { lazy, Suspense, useMemo, useState } from 'react'
import { copyClip, deleteClip, setClip } from '@marionette/core/clips/commands'
import type { Clip } from '@marionette/core/clips/records'
import { edit } from '@marionette/core/kernel/command'
import { freshId } from '@marionette/core/kernel/ids'
import { keyedPose } from '@marionette/core/playing/clips'
import { useEditor, type Editor } from '../../editor/editor'
import { perform, useDocument, usePuppet } from '../../editor/document'
import { openPanel } from '../../editor/session'
import { usePicture } from '../../pictures/posePictures'
import { Button } from '../../ui/Button'
import { MENU, MENU_ITEM } from '../../ui/menu'
import { NameInput } from '../../ui/NameInput'
import { freeClipName, openClip, useClip } from './acting'
import { makeClip } from './keying'

/** All motions for all bodies come beside the page. */
const ReadyMotions = lazy(() => import('./ReadyMotions'))

export function ClipList() {
  const editor = useEditor()
  const clips = usePuppet((p) => p.clips)
  const open = useClip()
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <ul aria-label="Clips" className="scroll-thin mt-2 min-h-0 flex-1 overflow-y-auto pr-1">
        {clips.map((clip) => (
          <ClipRow key={clip.id} clip={clip} isOpen={clip.id === open?.id} />
        ))}
        {clips.length === 0 && (
          <li className="cap mt-1 pr-3">A clip is a short piece of acting: a wave, a look round, a line that is spoken.</li>
        )}
      </ul>
      <div className="pt-2 pr-2">
        <Button small onClick={() => makeClip(editor)}>
          <Plus size={13} /> New clip
        </Button>
      </div>
      <Suspense fallback={<div className="h-[34px]" />}>
        <ReadyMotions />
      </Suspense>
      <div className="pt-1.5 pr-2">
        <Button small onClick={() => openPanel(editor, 'rangeTest')}>
          <Gauge size={13} /> Range test…
        </Button>
      </div>
    </div>
  )
}

function duplicate(editor: Editor, clip: Clip, mirrored: boolean): void {
  const id = freshId('clip')
  const name = freeClipName(editor, mirrored ? `${clip.name}, mirrored` : `${clip.name} copy`)
  if (perform(editor, [edit(copyClip, { clip: clip.id, id, name, mirrored })], mirrored ? 'Duplicate clip mirrored' : 'Duplicate clip'))
    openClip(editor, id)
}

/** The moment that stands for a clip: a third of the way in, where most have begun to move. */
const tellingTime = ({ length }: Clip): number => length / 3

function ClipRow({ clip, isOpen }: { clip: Clip; isOpen: boolean }) {
  const editor = useEditor()
  const [isNamed, setNamed] = useState(false)
  const puppet = useDocument((s) => s.history?.puppet)
  const values = useMemo(() => (puppet ? keyedPose(puppet, clip, tellingTime(clip)) : {}), [puppet, clip])
  const url = usePicture(values, null, JSON.stringify(values))
  return (
    <ContextMenu.Root>
      <ContextMenu.Trigger asChild>
        <li
          className={`relative flex h-[50px] items-center gap-2.5 rounded-l-lg pr-2 pl-1.5 ${isOpen ? 'bg-cord-soft font-[650]' : 'hover:bg-tint'}`}
          onDoubleClick={() => setNamed(true)}
        >
          <button
            type="button"
            aria-label={clip.name}
            aria-current={isOpen}
            className="absolute inset-0 rounded-l-lg"
            onClick={() => openClip(editor, clip.id)}
          />
          <span className="grid size-10 flex-none place-items-center overflow-hidden rounded-lg bg-tint">
            {url && <img src={url} alt="" className="size-full object-contain" draggable={false} />}
          </span>
          <span className="min-w-0 flex-1">
            {isNamed ? (
              <span className="relative z-10 block" onBlur={() => setNamed(false)}>
                <NameInput
                  label="Name of the clip"
                  name={clip.name}
                  takesFocus
                  onRename={(name) => perform(editor, [edit(setClip, { clip: clip.id, name })], 'Rename clip')}
                />
              </span>
            ) : (
              <span className="block truncate">{clip.name}</span>
            )}
            <span className="num block text-quiet">{clip.length.toFixed(1)} s</span>
          </span>
          {isOpen && <i className="absolute top-1 right-0 bottom-1 w-[3px] rounded bg-cord" />}
        </li>
      </ContextMenu.Trigger>
      <ContextMenu.Portal>
        <ContextMenu.Content className={MENU}>
          <ContextMenu.Item className={MENU_ITEM} onSelect={() => setTimeout(() => setNamed(true))}>
            Rename
          </ContextMenu.Item>
          <ContextMenu.Item className={MENU_ITEM} onSelect={() => duplicate(editor, clip, false)}>
            Duplicate
          </ContextMenu.Item>
          <ContextMenu.Item className={MENU_ITEM} onSelect={() => duplicate(editor, clip, true)}>
            Duplicate mirrored
          </ContextMenu.Item>
          <ContextMenu.Item className={MENU_ITEM} onSelect={() => void perform(editor, [edit(deleteClip, { clip: clip.id })])}>
            Delete
          </ContextMenu.Item>
        </ContextMenu.Content>
      </ContextMenu.Portal>
    </ContextMenu.Root>
  )
}
