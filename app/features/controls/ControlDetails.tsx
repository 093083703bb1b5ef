/** Details of a control: its name, range, place and what it drives. */
import { isForPeople } from '@marionette/core/controls/records'
import { Trash2 } from 'lucide-react'
import { channelOf } from '@marionette/core/puppet/channels'
import { controlChannel, CONTROL_COLOURS, type Control, type ControlKind, type Range, type Tie } from '@marionette/core/puppet/schema'
import { deleteControl, orderControl, rangeFor, setControl } from '@marionette/core/controls/commands'
import { Field, Group } from '../../panels/Group'
import { Pick } from '../../ui/Pick'
import { NameHeading } from '../../panels/NameHeading'
import { ChannelField } from '../../panels/ChannelField'
import { RespondsGroup } from '../responses/RespondsGroup'
import { ownerName } from '../responses/words'
import { openPuppet, perform, usePuppet } from '../../editor/document'
import { selectControl } from '../../editor/session'
import { Button } from '../../ui/Button'
import { NumberField } from '../../ui/NumberField'
import { axesFor } from '@marionette/core/reports/randomPose'
import { edit } from '@marionette/core/kernel/command'
import { newControl } from '@marionette/core/controls/new'
import { useEditor, type Editor } from '../../editor/editor'
import { nth } from '@marionette/core/kernel/sure'
import { partOf } from '@marionette/core/parts/lookup'
import { Box } from '../../ui/Box'

const KIND_WORDS: Record<ControlKind, string> = { slider: 'Slider', dial: 'Dial', pad: 'Pad', toggle: 'Toggle', lever: 'Bone control' }

const set = (editor: Editor, control: Control, label = `Change ${control.name}`): void =>
  void perform(editor, [edit(setControl, { control })], label)

export function ControlDetails({ control }: { control: Control }) {
  const editor = useEditor()
  return (
    <>
      <NameHeading
        lead={null}
        name={control.name}
        note={KIND_WORDS[control.kind]}
        onRename={(name) => set(editor, { ...control, name }, 'Rename control')}
      />
      <Group id="control-value" title="Value">
        {axesFor(control).map((axis) => (
          <ChannelField key={axis} address={controlChannel(control, axis)} {...(control.kind === 'lever' && { label: 'Angle' })} />
        ))}
      </Group>
      <RespondsGroup family="control" id={control.id} channels={axesFor(control).map((axis) => controlChannel(control, axis))} />
      {control.kind !== 'lever' && <RangeGroup control={control} />}
      <TiesGroup control={control} />
      <LookGroup control={control} />
      <div className="flex flex-wrap gap-2 border-t border-hair py-3">
        <Button small onClick={() => move(editor, control, -1)}>
          Earlier
        </Button>
        <Button small onClick={() => move(editor, control, 1)}>
          Later
        </Button>
        <Button
          small
          onClick={() => {
            selectControl(editor, null)
            perform(editor, [edit(deleteControl, { control: control.id })], `Delete ${control.name}`)
          }}
        >
          <Trash2 size={13} /> Delete
        </Button>
      </div>
    </>
  )
}

function move(editor: Editor, control: Control, by: number): void {
  const at = openPuppet(editor).controls.findIndex((c) => c.id === control.id)
  perform(editor, [edit(orderControl, { control: control.id, index: Math.max(0, at + by) })], `Move ${control.name}`)
}

function RangeGroup({ control }: { control: Control }) {
  const editor = useEditor()
  return (
    <Group id="control-range" title="Range">
      <RangeFields
        range={control.range}
        label={control.kind === 'pad' ? 'Right' : 'From'}
        isSymmetric={control.symmetric}
        onChange={(range) => set(editor, { ...control, range })}
      />
      {control.up && (
        <RangeFields range={control.up} label="Up" isSymmetric={control.symmetric} onChange={(up) => set(editor, { ...control, up })} />
      )}
      {control.kind !== 'toggle' && (
        <NumberField
          label="Steps of"
          value={control.step || null}
          empty="smooth"
          min={0}
          digits={3}
          onChange={(v) => set(editor, { ...control, step: v ?? 0 })}
        />
      )}
      <label className="flex h-7 items-center gap-2">
        <Box checked={control.springs} onChange={(on) => set(editor, { ...control, springs: on })} />
        Springs back when let go
      </label>
      {control.kind !== 'toggle' && (
        <label className="flex h-7 items-center gap-2">
          <Box
            checked={control.symmetric}
            onChange={(on) =>
              set(editor, {
                ...control,
                symmetric: on,
                ...(on && { range: evened(control.range), up: control.up && evened(control.up) }),
              })
            }
          />
          As far to both sides
        </label>
      )}
    </Group>
  )
}

/** A range that reaches as far to both sides of rest. */
function evened({ min, max, rest }: Range): Range {
  const reach = Math.max(max - rest, rest - min)
  return { min: rest - reach, max: rest + reach, rest }
}

function RangeFields({
  range,
  label,
  isSymmetric,
  onChange,
}: {
  range: Range
  label: string
  isSymmetric: boolean
  onChange: (range: Range) => void
}) {
  const put = (next: Range, side: 'min' | 'max' | 'rest'): void => {
    if (!isSymmetric) return onChange(next)
    const reach = side === 'min' ? next.rest - next.min : next.max - next.rest
    onChange({ min: next.rest - reach, max: next.rest + reach, rest: next.rest })
  }
  return (
    <>
      <div className="flex items-center gap-2">
        <NumberField
          label={label}
          value={range.min}
          max={range.rest}
          digits={2}
          onChange={(v) => v !== null && put({ ...range, min: v }, 'min')}
        />
        <span className="text-quiet">to</span>
        <NumberField
          label={`${label}, highest`}
          hideLabel
          value={range.max}
          min={range.rest}
          digits={2}
          onChange={(v) => v !== null && put({ ...range, max: v }, 'max')}
        />
      </div>
      <NumberField
        label="Rest"
        value={range.rest}
        min={range.min}
        max={range.max}
        digits={2}
        onChange={(v) => v !== null && put({ ...range, rest: v }, 'rest')}
      />
    </>
  )
}

/** Channels that a control can drive, as a list to pick from. */
function useDrivable(control: Control): { id: string; label: string }[] {
  const puppet = usePuppet((p) => p)
  const own = new Set(axesFor(control).map((axis) => controlChannel(control, axis)))
  const bones = Object.values(puppet.bones).map((b) => ({ id: `bone/${b.id}/angle`, label: `Bone ${b.name}` }))
  const controls = puppet.controls.flatMap((c) =>
    c.bone === null && isForPeople(c)
      ? axesFor(c).map((axis) => ({ id: controlChannel(c, axis), label: `Control ${c.name}${axis === 'value' ? '' : ` ${axis}`}` }))
      : [],
  )
  const parts = Object.values(puppet.parts)
    .filter((p) => p.id !== puppet.root)
    .flatMap((p) =>
      (['x', 'y', 'angle', 'scaleX', 'scaleY', 'opacity'] as const).map((f) => ({
        id: `part/${p.id}/${f}`,
        label: `${p.name}, ${channelOf(puppet, `part/${p.id}/${f}`)?.label.toLowerCase()}`,
      })),
    )
  const taken = new Set(control.ties.map((t) => t.channel))
  return [...controls, ...bones, ...parts].filter((o) => !own.has(o.id) && !taken.has(o.id))
}

function TiesGroup({ control }: { control: Control }) {
  const editor = useEditor()
  const options = useDrivable(control)
  const puppet = usePuppet((p) => p)
  const axis = nth(axesFor(control), 0)
  const from = control.bone === null ? control.range : rangeFor(channelOf(puppet, controlChannel(control)))
  const add = (channel: string): void => {
    const range = rangeFor(channelOf(openPuppet(editor), channel))
    set(
      editor,
      { ...control, ties: [...control.ties, { channel, axis, from: [from.min, from.max], to: [range.min, range.max], curve: null }] },
      `Tie to ${control.name}`,
    )
  }
  return (
    <Group id="control-ties" title="Drives" aside={<span className="cap">{control.ties.length || ''}</span>}>
      {control.ties.map((tie, k) => (
        <TieFields
          key={tie.channel}
          tie={tie}
          control={control}
          name={`${ownerName(puppet, tie.channel)}, ${channelOf(puppet, tie.channel)?.label.toLowerCase() ?? ''}`}
          onChange={(next) =>
            set(
              editor,
              { ...control, ties: control.ties.flatMap((t, i) => (i === k ? (next ? [next] : []) : [t])) },
              next ? `Change a tie of ${control.name}` : `Untie from ${control.name}`,
            )
          }
        />
      ))}
      <Pick label="Tie a channel" value="" options={[{ id: '', label: 'Tie…' }, ...options]} onChange={(id) => id && add(id)} />
    </Group>
  )
}

function TieFields({ tie, control, name, onChange }: { tie: Tie; control: Control; name: string; onChange: (tie: Tie | null) => void }) {
  const pair = (key: 'from' | 'to', label: string) => (
    <div className="flex items-center gap-2">
      <NumberField
        label={label}
        value={tie[key][0]}
        digits={2}
        onChange={(v) => v !== null && onChange({ ...tie, [key]: [v, tie[key][1]] })}
      />
      <span className="text-quiet">to</span>
      <NumberField
        label={`${label}, end`}
        hideLabel
        value={tie[key][1]}
        digits={2}
        onChange={(v) => v !== null && onChange({ ...tie, [key]: [tie[key][0], v] })}
      />
    </div>
  )
  return (
    <div className="mb-2 rounded-lg bg-tint px-2 py-1.5">
      <p className="flex items-center gap-1">
        <span className="min-w-0 flex-1 truncate text-xs font-medium">{name}</span>
        <button type="button" aria-label={`Untie ${name}`} className="text-quiet hover:text-cord" onClick={() => onChange(null)}>
          <Trash2 size={13} />
        </button>
      </p>
      {control.kind === 'pad' && (
        <Pick
          label="Way of the pad"
          value={tie.axis}
          options={[
            { id: 'x', label: 'Right' },
            { id: 'y', label: 'Up' },
          ]}
          onChange={(axis) => onChange({ ...tie, axis: axis as Tie['axis'] })}
        />
      )}
      {pair('from', 'Going')}
      {pair('to', 'Moves by')}
      <label className="flex h-6 items-center gap-2 text-xs">
        <Box small checked={tie.curve !== null} onChange={(on) => onChange({ ...tie, curve: on ? [0.4, 0, 0.6, 1] : null })} />
        Eased
      </label>
    </div>
  )
}

function LookGroup({ control }: { control: Control }) {
  const editor = useEditor()
  const kinds = (Object.keys(KIND_WORDS) as ControlKind[]).filter((k) => k !== 'lever' && (k === 'pad') === (control.kind === 'pad'))
  const puppet = usePuppet((p) => p)
  const place = control.place
  const parts = [
    { id: '', label: 'The canvas' },
    ...Object.values(puppet.parts)
      .filter((p) => p.id !== puppet.root)
      .map((p) => ({ id: p.id, label: p.name })),
  ]
  const pin = (part: string | null): void => {
    const { x, y } = part === null ? { x: puppet.canvas.width / 2, y: 60 } : partOf(puppet, part).pivot
    set(
      editor,
      {
        ...control,
        place: { on: 'stage', part, at: { x, y }, size: place.on === 'stage' ? place.size : control.kind === 'pad' ? 72 : 90 },
      },
      `Pin ${control.name}`,
    )
  }
  return (
    <Group id="control-look" title="Look and place">
      {control.kind !== 'lever' && control.kind !== 'pad' && (
        <Field label="Kind">
          <Pick
            label="Kind of control"
            value={control.kind}
            options={kinds.map((k) => ({ id: k, label: KIND_WORDS[k] }))}
            onChange={(kind) =>
              set(editor, {
                ...control,
                kind: kind as ControlKind,
                step: kind === 'toggle' ? newControl(control.id, '', 'toggle').step : 0,
              })
            }
          />
        </Field>
      )}
      <Field label="Group">
        <input
          key={control.group}
          aria-label="Group of the control"
          defaultValue={control.group}
          placeholder="none"
          className="h-7 w-full min-w-0 rounded-lg bg-tint px-2 outline-none focus:shadow-[0_0_0_2px_var(--cord)]"
          onBlur={(e) => e.target.value.trim() !== control.group && set(editor, { ...control, group: e.target.value.trim() })}
          onKeyDown={(e) => {
            e.stopPropagation()
            if (e.key === 'Enter') e.currentTarget.blur()
          }}
        />
      </Field>
      <Field label="Colour">
        <div className="flex gap-[7px]">
          {Array.from({ length: CONTROL_COLOURS }, (_, i) => i + 1).map((colour) => (
            <button
              key={colour}
              type="button"
              aria-label={`Colour ${colour}`}
              aria-pressed={control.colour === colour}
              className={`size-4 rounded-full ${control.colour === colour ? 'shadow-[0_0_0_2px_var(--paper),0_0_0_3.5px_var(--ink)]' : ''}`}
              style={{ background: `var(--chain-${colour})` }}
              onClick={() => set(editor, { ...control, colour })}
            />
          ))}
        </div>
      </Field>
      <Field label="Stage">
        <Pick
          label="Pinned on the stage"
          value={place.on === 'stage' ? (place.part ?? '') : 'none'}
          options={[{ id: 'none', label: 'On the shelf alone' }, ...parts]}
          onChange={(id) => (id === 'none' ? set(editor, { ...control, place: { on: 'shelf' } }) : pin(id || null))}
        />
      </Field>
      {place.on === 'stage' && (
        <NumberField
          label="Size"
          value={place.size}
          unit="px"
          min={24}
          max={400}
          digits={0}
          onChange={(v) => v !== null && set(editor, { ...control, place: { ...place, size: v } })}
        />
      )}
    </Group>
  )
}
