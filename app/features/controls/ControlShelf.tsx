/** Bottom: the puppet's controls, playable in every bench; folded to one line. */
import { isForPeople } from '@marionette/core/controls/records'
import { counted, listed } from '@marionette/core/kernel/counted'
import { ChevronDown, ChevronRight, Circle, Dices, Plus, RotateCcw, SlidersHorizontal } from 'lucide-react'
import { DropdownMenu } from 'radix-ui'
import { movedChannels } from '@marionette/core/puppet/channels'
import type { Control } from '@marionette/core/puppet/schema'
import { resetPose } from '@marionette/core/poses/commands'
import { ControlFigures, ControlWidget } from './ControlWidget'
import { makeControl } from './making'
import { PadStops } from './PadStops'
import { restControls, shakeControls } from './setting'
import { ChannelField } from '../../panels/ChannelField'
import { openPuppet, perform, usePuppet } from '../../editor/document'
import { isRestShownIn, selectControl, toggleShelf, useSession } from '../../editor/session'
import { Button, Hint, IconButton } from '../../ui/Button'
import { MENU, MENU_ITEM } from '../../ui/menu'
import { PoseStrip } from '../posing/PoseStrip'
import { channelsOfControl, hereOf, recordControl } from '../responses/recordHere'
import { useRecording } from '../responses/recording'
import { edit } from '@marionette/core/kernel/command'
import { boneChannel } from '@marionette/core/bones/channels'
import { useEditor } from '../../editor/editor'
import { useKeysFor } from '../../panels/keymap'

export function ControlShelf() {
  const editor = useEditor()
  const open = useSession((s) => s.shelfOpen)
  const controls = usePuppet((p) => p.controls).filter(isForPeople)
  return (
    <section aria-label="Controls" className="flex-none px-3">
      <div className="flex h-12 items-center gap-3">
        <button
          type="button"
          aria-expanded={open}
          onClick={() => toggleShelf(editor)}
          className="flex flex-none items-center gap-1.5 font-[650]"
        >
          {open ? <ChevronDown size={14} /> : <ChevronRight size={14} />} Controls
          {controls.length > 0 && <span className="num font-normal text-quiet">{controls.length}</span>}
        </button>
        {controls.length > 0 && !open ? <FoldedControls controls={controls} /> : <PoseWords />}
        {open && <ShelfTools controls={controls} />}
        <RestButton />
      </div>
      {open && <OpenShelf controls={controls} />}
    </section>
  )
}

/** As many controls as the line has room for. */
function FoldedControls({ controls }: { controls: readonly Control[] }) {
  return (
    <div className="flex h-12 min-w-0 flex-1 flex-wrap items-center gap-x-5 overflow-hidden">
      {controls.map((control) => (
        <div key={control.id} className="flex h-12 items-center gap-2">
          <span className="max-w-[92px] truncate text-xs">{control.name}</span>
          <ControlWidget control={control} size={control.kind === 'pad' ? 30 : control.kind === 'dial' ? 26 : 64} />
          <RecordControl control={control} />
        </div>
      ))}
    </div>
  )
}

/** What the pose moves, in words. */
function PoseWords() {
  const isRest = useSession(isRestShownIn)
  const posed = usePuppet((p) => movedChannels(p).length)
  const bones = usePuppet((p) => Object.keys(p.bones).filter((b) => boneChannel(b, 'angle') in p.pose).length)
  const others = posed - bones
  const moved = [bones > 0 && `${counted(bones, 'bone')} turned`, others > 0 && `${counted(others, 'value')} changed`].filter(
    (words) => words !== false,
  )
  return (
    <span className="flex-1 truncate text-xs text-quiet">
      {isRest ? 'Bones shows the rest; the pose waits in the other benches.' : posed === 0 ? 'The puppet is at rest.' : `${listed(moved)}.`}
    </span>
  )
}

function RestButton() {
  const editor = useEditor()
  const posed = usePuppet((p) => movedChannels(p).length)
  return (
    <Hint label="Whole puppet back to rest" keys={useKeysFor('pose.resetAll')} side="top">
      <Button small disabled={posed === 0} onClick={() => perform(editor, [edit(resetPose, { channels: null })])}>
        <RotateCcw size={13} /> Rest
      </Button>
    </Hint>
  )
}

const KINDS = [
  ['slider', 'Slider'],
  ['dial', 'Dial'],
  ['pad', 'Pad, two ways'],
  ['toggle', 'Toggle'],
] as const

function ShelfTools({ controls }: { controls: readonly Control[] }) {
  const editor = useEditor()
  const arranging = useSession((s) => s.arranging)
  return (
    <div className="flex flex-none items-center gap-1">
      <DropdownMenu.Root>
        <DropdownMenu.Trigger asChild>
          <IconButton label="Add a control" className="size-7">
            <Plus size={16} />
          </IconButton>
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content className={MENU} sideOffset={4} align="end">
            {KINDS.map(([kind, label]) => (
              <DropdownMenu.Item key={kind} className={MENU_ITEM} onSelect={() => makeControl(editor, kind)}>
                {label}
              </DropdownMenu.Item>
            ))}
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      {controls.length > 0 && (
        <>
          <IconButton label="All at random, to see how they go together" className="size-7" onClick={() => shakeControls(editor, controls)}>
            <Dices size={16} />
          </IconButton>
          <Hint label="Arrange: names, ranges and places of controls" side="top">
            <button
              type="button"
              aria-pressed={arranging}
              onClick={() => {
                useSession.of(editor).setState({ arranging: !arranging })
                if (arranging) selectControl(editor, null)
              }}
              className={`flex h-7 items-center gap-1.5 rounded-full px-2.5 text-xs font-semibold ${arranging ? 'bg-ink text-panel' : 'text-quiet hover:bg-tint'}`}
            >
              <SlidersHorizontal size={13} /> Arrange
            </button>
          </Hint>
        </>
      )}
    </div>
  )
}

function OpenShelf({ controls }: { controls: readonly Control[] }) {
  const groups = [...new Set(controls.map((c) => c.group))]
  return (
    <div className="scroll-thin scroll-more max-h-[192px] overflow-y-auto pb-3">
      {controls.length === 0 && <NoControls />}
      <div className="flex flex-wrap gap-x-8 gap-y-1">
        {groups.map((group) => (
          <ControlGroup key={group} name={group} controls={controls.filter((c) => c.group === group)} />
        ))}
      </div>
      <PoseStrip />
    </div>
  )
}

/** Until there are controls, bones that are turned show up here. */
function NoControls() {
  const editor = useEditor()
  const pose = usePuppet((p) => p.pose)
  const turned = Object.values(openPuppet(editor).bones).filter((b) => boneChannel(b.id, 'angle') in pose)
  return (
    <div className="pl-3">
      <p className="mb-1 text-xs text-quiet">
        Controls let others play the puppet. Add one with +, or select a bone and press “Control for this” in the details.
      </p>
      <div className="grid grid-cols-[repeat(auto-fill,minmax(190px,1fr))] gap-x-6">
        {turned.map((b) => (
          <ChannelField key={b.id} address={boneChannel(b.id, 'angle')} label={b.name} />
        ))}
      </div>
    </div>
  )
}

function ControlGroup({ name, controls }: { name: string; controls: readonly Control[] }) {
  const editor = useEditor()
  return (
    <div className="pl-1">
      {name !== '' && (
        <h4 className="mt-1 mb-1 flex items-center gap-2 text-xs font-semibold">
          {name}
          <button
            type="button"
            aria-label={`Bring ${name} to rest`}
            className="text-quiet hover:text-ink"
            onClick={() => restControls(editor, controls)}
          >
            <RotateCcw size={12} />
          </button>
        </h4>
      )}
      <div className="flex flex-wrap items-start gap-x-5 gap-y-2">
        {controls.filter(isTall).map((control) => (
          <ShelfControl key={control.id} control={control} />
        ))}
        <div className="flex flex-col">
          {controls
            .filter((c) => !isTall(c))
            .map((control) => (
              <ShelfControl key={control.id} control={control} />
            ))}
        </div>
      </div>
    </div>
  )
}

/** Beside a control that is away from rest: what it does there is recorded. */
function RecordControl({ control, corner = false }: { control: Control; corner?: boolean }) {
  const editor = useEditor()
  const isRecording = useRecording((s) => s.recording !== null)
  const isRest = useSession(isRestShownIn)
  const words = usePuppet((p) => hereOf(editor, p, channelsOfControl(control))?.words ?? null)
  if (words === null || isRecording || isRest) return null
  const label = `Record ${control.name} at ${words}`
  return (
    <Hint label={label} side="top">
      <button
        type="button"
        aria-label={label}
        className={`grid size-5 flex-none place-items-center rounded-full text-cord hover:bg-tint ${corner ? 'absolute right-0 bottom-0.5' : ''}`}
        onClick={() => recordControl(editor, control.id)}
      >
        <Circle size={11} fill="currentColor" />
      </button>
    </Hint>
  )
}

const isTall = ({ kind }: Control): boolean => kind === 'pad' || kind === 'dial'

function ShelfControl({ control }: { control: Control }) {
  const editor = useEditor()
  const arranging = useSession((s) => s.arranging)
  const chosen = useSession((s) => s.control === control.id)
  return (
    <div
      className={`relative rounded-lg p-1 ${chosen ? 'shadow-[0_0_0_2px_var(--cord)]' : arranging ? 'shadow-[0_0_0_1px_var(--twine)]' : ''} ${
        isTall(control) ? 'flex flex-col items-center gap-1' : 'flex w-[228px] items-center gap-2'
      }`}
    >
      {!isTall(control) && <span className="w-[72px] truncate text-xs">{control.name}</span>}
      <ControlWidget control={control} size={control.kind === 'pad' ? 88 : control.kind === 'dial' ? 40 : 92}>
        {control.kind === 'pad' && <PadStops control={control} />}
      </ControlWidget>
      {isTall(control) && <span className="max-w-[110px] truncate text-xs">{control.name}</span>}
      <ControlFigures control={control} />
      {!arranging && <RecordControl control={control} corner={isTall(control)} />}
      {arranging && (
        <button
          type="button"
          aria-label={`Arrange ${control.name}`}
          className="absolute inset-0 cursor-pointer rounded-lg"
          onClick={() => selectControl(editor, control.id)}
        />
      )}
    </div>
  )
}
