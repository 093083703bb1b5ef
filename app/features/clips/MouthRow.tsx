/** What is said, as mouth shapes on a row: pictures that are moved, replaced, merged and put in between. */
import { ContextMenu, Popover } from 'radix-ui'
import { useState, type PointerEvent } from 'react'
import type { Clip, ClipLayer, Spoken } from '@marionette/core/clips/records'
import { edit, type Edit } from '@marionette/core/kernel/command'
import { mergedShape, movedShape, moveSpokenEdits, replacedShape, respeakEdits, splitShape } from '@marionette/core/playing/mouthShapes'
import { setLayer } from '@marionette/core/clips/commands'
import { VISEME_INFO, VISEMES, type Viseme } from '@marionette/core/speech/visemes'
import { useEditor, type Editor } from '../../editor/editor'
import { beginGesture, endGesture, perform, updateGesture, useDocument } from '../../editor/document'
import { grip, GRIP } from '../../ui/grip'
import { MENU, MENU_ITEM } from '../../ui/menu'
import { clipNow, seek, setActing, toFrame, useActing } from './acting'
import { linesOf, MOUTH_ROW, mouthRowHeight, speakingLayers, type Speaking } from './soundLanes'
import { useShapePictures, type ShapePictures } from './shapePictures'
import type { TimeScale } from '@marionette/core/clips/graph'
import { useTimeScale } from './timeScale'
import { useEscape } from './useEscape'

export default function MouthRow({ clip }: { clip: Clip }) {
  const scale = useTimeScale(clip)
  const speaking = speakingLayers(clip)
  const lanes = linesOf(speaking)
  const pictures = useShapePictures(speaking[0]?.spoken.mood ?? '')
  return (
    <div className="flex flex-none" style={{ height: mouthRowHeight(clip) }}>
      <span className="flex w-[176px] flex-none items-center gap-2 self-start pl-2 text-xs font-semibold" style={{ height: MOUTH_ROW }}>
        Mouth
      </span>
      <div className="scroll-thin relative min-w-0 flex-1 overflow-x-hidden overflow-y-auto" role="list" aria-label="Mouth shapes">
        {speaking.map((layer, line) =>
          // By their places: what is dragged stays what it is while its time changes.
          layer.spoken.cues.map((_, k) => (
            <Shape key={`${layer.id} ${k}`} clip={clip} layer={layer} index={k} lane={lanes[line] ?? 0} scale={scale} pictures={pictures} />
          )),
        )}
      </div>
    </div>
  )
}

/** Edits that make a layer say something else, on the puppet as it is without what is being dragged. */
function respeak(editor: Editor, clip: Clip, layer: ClipLayer, next: Spoken): Edit[] {
  const puppet = useDocument.of(editor).getState().history?.puppet
  return puppet ? respeakEdits(puppet, clip, layer, next) : []
}

function change(editor: Editor, clip: Clip, layer: Speaking, next: Spoken, label: string): void {
  const edits = respeak(editor, clip, layer, next)
  if (edits.length > 0) perform(editor, edits, label)
}

interface ShapeProps {
  readonly clip: Clip
  readonly layer: Speaking
  readonly index: number
  /** Which row it stands in, where lines are said at one time. */
  readonly lane: number
  readonly scale: TimeScale
  readonly pictures: ShapePictures
}

interface Drag {
  readonly x: number
  readonly clip: Clip
  readonly layer: Speaking
  readonly hasMoved: boolean
}

function Shape({ clip, layer, index, lane, scale, pictures }: ShapeProps) {
  const editor = useEditor()
  const { spoken } = layer
  const cue = spoken.cues[index]
  const isOn = useActing((s) => s.shape?.layer === layer.id && s.shape.index === index)
  const [drag, setDrag] = useState<Drag | null>(null)
  const [isPicking, setPicking] = useState(false)
  const end = (isKept: boolean): void => {
    if (drag?.hasMoved) endGesture(editor, isKept)
    else if (drag && isKept && cue) seek(editor, toFrame(clip, spoken.start + cue.at))
    setDrag(null)
  }
  useEscape(drag !== null, () => end(false))
  if (!cue) return null
  const until = spoken.cues[index + 1]?.at ?? spoken.duration
  const left = scale.x(spoken.start + cue.at)
  const width = Math.max(3, (until - cue.at) * scale.perSecond)
  const { label, example } = VISEME_INFO[cue.viseme]
  const choose = (): void => setActing(editor, { shape: { layer: layer.id, index }, keys: [], pose: null, sound: null })
  const merge = (): void => change(editor, clip, layer, mergedShape(spoken, index), 'Merge mouth shapes')
  const replace = (viseme: Viseme): void => {
    setPicking(false)
    change(editor, clip, layer, replacedShape(spoken, index, viseme), `Mouth shape ${VISEME_INFO[viseme].label}`)
  }
  /** The first shape takes the whole line along. */
  const dragged = (of: Pick<Drag, 'clip' | 'layer'>, by: number): Edit[] => {
    const at = of.layer.spoken.start + (of.layer.spoken.cues[index]?.at ?? 0)
    const to = toFrame(of.clip, Math.max(0, at + by))
    if (index === 0) return moveSpokenEdits(of.clip, of.layer, to - at)
    return respeak(editor, of.clip, of.layer, movedShape(of.layer.spoken, index, to - of.layer.spoken.start))
  }
  const move = (e: PointerEvent): void => {
    if (!drag) return
    if (!drag.hasMoved) {
      if (Math.abs(e.clientX - drag.x) < 3) return
      beginGesture(editor, index === 0 ? `Move ${layer.name}` : 'Move mouth shape')
      setDrag({ ...drag, hasMoved: true })
    }
    const edits = dragged(drag, (e.clientX - drag.x) / scale.perSecond)
    if (edits.length > 0) updateGesture(editor, edits)
  }
  const url = pictures[cue.viseme]
  return (
    <Popover.Root open={isPicking} onOpenChange={setPicking}>
      <ContextMenu.Root>
        <ContextMenu.Trigger asChild>
          <Popover.Anchor asChild>
            <div
              role="listitem"
              aria-label={`${label}, as in ${example}`}
              aria-current={isOn}
              title={`${label}, as in ${example}`}
              tabIndex={0}
              data-shape={cue.viseme}
              className={`absolute h-[34px] cursor-grab overflow-hidden border-l-2 ${isOn ? 'z-10 border-cord bg-cord-soft outline-2 -outline-offset-1 outline-cord' : `bg-tint ${index === 0 ? 'border-ink' : 'border-brass'}`} ${GRIP}`}
              style={{ left, width, top: 2 + lane * MOUTH_ROW }}
              onPointerDown={(e) => {
                if (e.button !== 0) return
                grip(e)
                choose()
                setDrag({ x: e.clientX, clip, layer, hasMoved: false })
              }}
              onPointerMove={move}
              onPointerUp={() => end(true)}
              onPointerCancel={() => end(false)}
              onDoubleClick={() => setPicking(true)}
              onFocus={choose}
              onKeyDown={(e) => {
                if (e.key === 'Delete' || e.key === 'Backspace') merge()
                else if (e.key === 'Enter') setPicking(true)
                else if (e.key === 'ArrowLeft' || e.key === 'ArrowRight')
                  perform(editor, dragged({ clip, layer }, (e.key === 'ArrowLeft' ? -1 : 1) / clip.rate), 'Move mouth shape')
                else return
                e.preventDefault()
                e.stopPropagation()
              }}
            >
              {url && (
                <img
                  src={url}
                  alt=""
                  draggable={false}
                  className="pointer-events-none h-full max-w-full object-cover"
                  style={{ width: 34 }}
                />
              )}
              {!url && width > 24 && <span className="pointer-events-none px-0.5 text-[10px]/4 text-quiet">{label}</span>}
            </div>
          </Popover.Anchor>
        </ContextMenu.Trigger>
        <ShapeMenu clip={clip} layer={layer} index={index} onReplace={() => setTimeout(() => setPicking(true))} onMerge={merge} />
      </ContextMenu.Root>
      <Popover.Portal>
        <Popover.Content
          side="top"
          sideOffset={6}
          collisionPadding={8}
          className="z-50 rounded-2xl bg-panel p-2.5 shadow-3"
          aria-label="Mouth shapes to choose from"
        >
          <Choices shown={cue.viseme} pictures={pictures} onPick={replace} />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  )
}

interface ShapeMenuProps {
  readonly clip: Clip
  readonly layer: Speaking
  readonly index: number
  readonly onReplace: () => void
  readonly onMerge: () => void
}

function ShapeMenu({ clip, layer, index, onReplace, onMerge }: ShapeMenuProps) {
  const editor = useEditor()
  const leaveOut = (): void =>
    void perform(editor, [edit(setLayer, { clip: clip.id, layer: layer.id, muted: true })], `Leave out ${layer.name}`)
  return (
    <ContextMenu.Portal>
      <ContextMenu.Content className={MENU}>
        <Item onSelect={onReplace}>Replace…</Item>
        <Item onSelect={onMerge}>{index === 0 ? 'Merge with the one after' : 'Merge with the one before'}</Item>
        <Item onSelect={() => splitHere(editor, layer)}>Put one in at the moment looked at</Item>
        <Item onSelect={leaveOut}>Leave this line out</Item>
      </ContextMenu.Content>
    </ContextMenu.Portal>
  )
}

/** Puts the resting mouth in at the moment; it is replaced afterwards by what is wanted. */
function splitHere(editor: Editor, layer: Speaking): void {
  const clip = clipNow(editor)
  if (!clip) return
  const { time } = useActing.of(editor).getState()
  const at = toFrame(clip, time) - layer.spoken.start
  if (at <= 0 || at >= layer.spoken.duration) return void editor.notify('Look at a moment within the line: the shape is put in there.')
  const shown = layer.spoken.cues.findLast((cue) => cue.at <= at)?.viseme
  const next = splitShape(layer.spoken, at, shown === 'rest' ? 'aa' : 'rest')
  change(editor, clip, layer, next, 'Put in a mouth shape')
  setActing(editor, { shape: { layer: layer.id, index: next.cues.findLastIndex((cue) => cue.at <= at + 1e-6) } })
}

function Choices({ shown, pictures, onPick }: { shown: Viseme; pictures: ShapePictures; onPick: (viseme: Viseme) => void }) {
  return (
    <div role="group" aria-label="Mouth shapes to choose from" className="grid grid-cols-4 gap-1.5">
      {VISEMES.map((viseme) => (
        <button
          key={viseme}
          type="button"
          aria-pressed={viseme === shown}
          className={`flex w-[68px] flex-col items-center rounded-lg p-1 ${viseme === shown ? 'bg-cord-soft outline-2 -outline-offset-2 outline-cord' : 'hover:bg-tint'}`}
          onClick={() => onPick(viseme)}
        >
          <span className="grid size-12 place-items-center overflow-hidden rounded-md bg-[var(--stage)]">
            {pictures[viseme] && <img src={pictures[viseme]} alt="" draggable={false} className="size-full object-cover" />}
          </span>
          <span className="max-w-full truncate text-[11px]/4 [word-spacing:0.15em]">{VISEME_INFO[viseme].label}</span>
        </button>
      ))}
    </div>
  )
}

const Item = ({ onSelect, children }: { onSelect: () => void; children: string }) => (
  <ContextMenu.Item className={MENU_ITEM} onSelect={onSelect}>
    {children}
  </ContextMenu.Item>
)
