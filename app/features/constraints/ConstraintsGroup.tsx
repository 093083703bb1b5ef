/** What tells a bone where to be besides its own angle: targets it reaches or points at, bones it copies, paths. */
import { Trash2 } from 'lucide-react'
import { useState } from 'react'
import { movedBones, targetsOf, type BendSide, type Constraint, type ConstraintOf } from '@marionette/core/puppet/schema'
import { freshId } from '@marionette/core/kernel/ids'
import {
  addTarget,
  deleteConstraint,
  hangTarget,
  orderConstraint,
  renameTarget,
  setConstraint,
} from '@marionette/core/constraints/commands'
import { boneOptions } from '../../panels/tree'
import { openPuppet, perform, usePuppet, useRestOf } from '../../editor/document'
import { Button, IconButton } from '../../ui/Button'
import { NameInput } from '../../ui/NameInput'
import { NumberField } from '../../ui/NumberField'
import { Segments } from '../../ui/Segments'
import { ChannelField } from '../../panels/ChannelField'
import { makeConstraint, type Making } from './constraintMaking'
import { Field, Group } from '../../panels/Group'
import { Pick } from '../../ui/Pick'
import { edit } from '@marionette/core/kernel/command'
import { limbUpTo } from '@marionette/core/bones/tree'
import { channelAddress } from '@marionette/core/kernel/channel'
import { useEditor, type Editor } from '../../editor/editor'
import { nth, recordOf, sure } from '@marionette/core/kernel/sure'
import { boneOf } from '@marionette/core/bones/lookup'

const MAKINGS: readonly { readonly id: Making | ''; readonly label: string }[] = [
  { id: '', label: 'Add…' },
  { id: 'reach', label: 'Reach for a target' },
  { id: 'aim', label: 'Point at a target' },
  { id: 'copy', label: 'Copy a turn' },
  { id: 'distance', label: 'Keep a distance' },
  { id: 'path', label: 'Lie on a path' },
]

const TITLES: Record<Constraint['kind'], string> = {
  reach: 'Reach',
  aim: 'Points at',
  copy: 'Copies',
  distance: 'Keeps a distance',
  path: 'On a path',
}

export function ConstraintsGroup({ bone }: { bone: string }) {
  const editor = useEditor()
  const all = usePuppet((p) => p.constraints)
  const own = (all ?? []).filter((c) => movedBones(c).includes(bone))
  return (
    <Group id="constraints" title="Reach and follow" aside={own.length > 0 && <span className="cap">{own.length}</span>}>
      {own.map((c) => (
        <Card key={c.id} constraint={c} at={sure(all).indexOf(c)} />
      ))}
      <Pick label="Add a constraint" value="" options={MAKINGS} onChange={(kind) => kind && makeConstraint(editor, kind as Making, bone)} />
    </Group>
  )
}

const change = (editor: Editor, constraint: Constraint): void =>
  void perform(editor, [edit(setConstraint, { constraint })], `Change ${constraint.name}`)

function Card({ constraint: c, at }: { constraint: Constraint; at: number }) {
  const editor = useEditor()
  return (
    <section aria-label={c.name} className="mb-2 rounded-[10px] bg-tint/60 px-2.5 pt-1 pb-2">
      <div className="flex items-center gap-1">
        <b className="text-xs font-semibold">{TITLES[c.kind]}</b>
        <span className="cap flex-1 truncate">{membersOf(editor, c)}</span>
        {at > 0 && (
          <Button small onClick={() => perform(editor, [edit(orderConstraint, { constraint: c.id, index: at - 1 })])}>
            Earlier
          </Button>
        )}
        <IconButton
          label={`Delete ${c.name}`}
          className="size-7"
          onClick={() => perform(editor, [edit(deleteConstraint, { constraint: c.id })], `Delete ${c.name}`)}
        >
          <Trash2 size={14} />
        </IconButton>
      </div>
      <ChannelField address={channelAddress('constraint', c.id, 'amount')} />
      {c.kind === 'reach' && <ReachFields c={c} />}
      {c.kind === 'copy' && <CopyFields c={c} />}
      {c.kind === 'distance' && (
        <>
          <NumberField
            label="At least"
            value={c.least}
            unit="px"
            min={0}
            max={c.most}
            onChange={(v) => v !== null && change(editor, { ...c, least: v })}
          />
          <NumberField
            label="At most"
            value={c.most}
            unit="px"
            min={c.least}
            onChange={(v) => v !== null && change(editor, { ...c, most: v })}
          />
        </>
      )}
      {c.kind === 'path' && <PathFields c={c} />}
      {targetsOf(c).map((id) => (
        <TargetFields key={id} id={id} turns={c.kind === 'reach' && c.level !== null && c.target === id} />
      ))}
    </section>
  )
}

function membersOf(editor: Editor, c: Constraint): string {
  const { bones } = openPuppet(editor)
  const moved = movedBones(c)
  const first = recordOf(bones, nth(moved, 0)).name
  return moved.length === 1 ? first : `${first} to ${recordOf(bones, nth(moved, -1)).name}`
}

const SIDES: readonly { readonly value: `${BendSide}`; readonly label: string; readonly name?: string }[] = [
  { value: '-1', label: '↻', name: 'Clockwise' },
  { value: '0', label: 'As posed' },
  { value: '1', label: '↺', name: 'Counter-clockwise' },
]

function ReachFields({ c }: { c: ConstraintOf<'reach'> }) {
  const editor = useEditor()
  const puppet = useRestOf()
  const tip = nth(c.bones, -1)
  const whole = limbUpTo(puppet, tip)
  const feet = boneOf(puppet, tip).children.map((id) => ({ id, label: boneOf(puppet, id).name }))
  const start = (length: number): void => change(editor, { ...c, bones: whole.slice(-length) })
  return (
    <>
      <Field label="Bends">
        <Segments
          label="Side to which it bends"
          value={`${c.side}`}
          options={SIDES}
          onChange={(v) => change(editor, { ...c, side: Number(v) as BendSide })}
        />
      </Field>
      <NumberField
        label="Bones"
        value={c.bones.length}
        min={1}
        max={Math.max(whole.length, c.bones.length)}
        digits={0}
        onChange={(v) => v !== null && start(v)}
      />
      <NumberField
        label="Soft"
        value={Math.round(c.soft * 100)}
        unit="%"
        min={0}
        max={50}
        digits={0}
        onChange={(v) => v !== null && change(editor, { ...c, soft: v / 100 })}
      />
      <NumberField
        label="Stretch"
        value={Math.round(c.stretch * 100)}
        unit="%"
        rest={100}
        min={100}
        max={1000}
        digits={0}
        onChange={(v) => v !== null && change(editor, { ...c, stretch: v / 100 })}
      />
      {feet.length > 0 && (
        <Field label="Level">
          <Pick
            label="Bone that stays level"
            value={c.level ?? ''}
            options={[{ id: '', label: 'Nothing' }, ...feet]}
            onChange={(level) => change(editor, { ...c, level: level || null })}
          />
        </Field>
      )}
      <Field label="Bends to">
        {c.pole === null ? (
          <Button small onClick={() => addPole(editor, c)}>
            Add a pole
          </Button>
        ) : (
          <Button small onClick={() => change(editor, { ...c, pole: null })}>
            Take the pole away
          </Button>
        )}
      </Field>
    </>
  )
}

/** A pole beside the middle of the limb, on the side to which it bends. */
function addPole(editor: Editor, c: ConstraintOf<'reach'>): void {
  const { bones } = openPuppet(editor)
  const [a, b] = [recordOf(bones, nth(c.bones, 0)).start, recordOf(bones, nth(c.bones, -1)).end]
  const knee = recordOf(bones, nth(c.bones, c.bones.length >> 1)).start
  const id = freshId('target')
  const side = c.side === 0 ? 1 : c.side
  const at = { x: Math.round(knee.x - (side * (b.y - a.y)) / 2), y: Math.round(knee.y + (side * (b.x - a.x)) / 2) }
  perform(
    editor,
    [edit(addTarget, { id, name: `${c.name} pole`, at, parent: null }), edit(setConstraint, { constraint: { ...c, pole: id } })],
    'Add a pole',
  )
}

function CopyFields({ c }: { c: ConstraintOf<'copy'> }) {
  const editor = useEditor()
  const puppet = useRestOf()
  return (
    <>
      <Field label="From">
        <Pick
          label="Bone whose turn is copied"
          value={c.from}
          options={boneOptions(puppet).filter((o) => o.id !== c.bone)}
          onChange={(from) => change(editor, { ...c, from })}
        />
      </Field>
      <NumberField
        label="Ratio"
        value={c.ratio}
        rest={1}
        step={0.05}
        digits={2}
        onChange={(v) => v !== null && change(editor, { ...c, ratio: v })}
      />
    </>
  )
}

function PathFields({ c }: { c: ConstraintOf<'path'> }) {
  const editor = useEditor()
  const addSpot = (): void => {
    const { targets, bones } = openPuppet(editor)
    const last = recordOf(targets, nth(c.targets, -1)).at
    const before = c.targets.length > 1 ? recordOf(targets, nth(c.targets, -2)).at : recordOf(bones, nth(c.bones, 0)).start
    const id = freshId('target')
    const at = { x: Math.round((last.x + before.x) / 2), y: Math.round((last.y + before.y) / 2) }
    const through = [...c.targets.slice(0, -1), id, nth(c.targets, -1)]
    perform(
      editor,
      [
        edit(addTarget, { id, name: `${c.name} ${through.length}`, at, parent: null }),
        edit(setConstraint, { constraint: { ...c, targets: through } }),
      ],
      'Add a spot to the path',
    )
  }
  return (
    <>
      <ChannelField address={channelAddress('constraint', c.id, 'along')} />
      <Field label="Goes through">
        <Button small onClick={addSpot}>
          Add a spot
        </Button>
      </Field>
    </>
  )
}

/** `turns`: whether something takes over the target's turn. */
function TargetFields({ id, turns }: { id: string; turns: boolean }) {
  const editor = useEditor()
  const puppet = useRestOf()
  const [isOpen, setOpen] = useState(false)
  const target = puppet.targets[id]
  if (!target) return null
  return (
    <div className="mt-1 border-t border-hair pt-1">
      <div className="flex items-center gap-1">
        <span aria-hidden className="size-2.5 flex-none border-2 border-verdigris" />
        <NameInput
          label={`Name of ${target.name}`}
          name={target.name}
          onRename={(name) => perform(editor, [edit(renameTarget, { target: id, name })])}
        />
        <Button small aria-expanded={isOpen} onClick={() => setOpen(!isOpen)}>
          {isOpen ? 'Less' : 'More'}
        </Button>
      </div>
      {isOpen && (
        <>
          <ChannelField address={channelAddress('target', id, 'x')} />
          <ChannelField address={channelAddress('target', id, 'y')} />
          {turns && <ChannelField address={channelAddress('target', id, 'angle')} />}
          <Field label="Hangs on">
            <Pick
              label={`Bone that carries ${target.name}`}
              value={target.parent ?? ''}
              options={[{ id: '', label: 'Nothing: it stays' }, ...boneOptions(puppet)]}
              onChange={(parent) => perform(editor, [edit(hangTarget, { target: id, parent: parent || null })])}
            />
          </Field>
        </>
      )}
    </div>
  )
}
