/** Details of a part: its name, pose or home, and how it shows. */
import type { Part } from '@marionette/core/puppet/schema'
import { addressesOf } from '@marionette/core/puppet/channels'
import { pictureOf } from '@marionette/core/parts/pictures'
import { renamePart, setHome, setPartOpacity, setPivot, showPart } from '@marionette/core/parts/commands'
import { alternatesOf } from '@marionette/core/alternates/commands'
import { perform, usePuppet } from '../../editor/document'
import { seenAt, valueSeen } from '../../editor/poseInverse'
import { Thumb } from '../../pictures/Thumb'
import { NumberField } from '../../ui/NumberField'
import { ChannelField } from '../../panels/ChannelField'
import { controlFor, padFor } from '../controls/making'
import { openTurn } from '../responses/turning'
import { Button } from '../../ui/Button'
import { Field, Group } from '../../panels/Group'
import { Pick } from '../../ui/Pick'
import { LayerFields } from '../layering/LayerFields'
import { NameHeading } from '../../panels/NameHeading'
import { PictureGroup } from './PictureGroup'
import { edit } from '@marionette/core/kernel/command'
import { atHome } from '@marionette/core/parts/new'
import type { Placement } from '@marionette/core/parts/records'
import { partChannel } from '@marionette/core/parts/channels'
import { useEditor } from '../../editor/editor'
import { nth, recordOf } from '@marionette/core/kernel/sure'
import { Box } from '../../ui/Box'

const kindOf = ({ swap, content, children }: Part): string => {
  if (swap) return `${children.length} alternates`
  if (content.kind === 'group') return `Group of ${children.length}`
  return content.kind === 'picture' ? 'Picture' : 'Drawing'
}

export function PartHeading({ ids: [id = ''] }: { ids: readonly string[] }) {
  const editor = useEditor()
  const part = usePuppet((p) => p.parts[id])
  if (!part) return null
  return (
    <NameHeading
      lead={<Thumb kind="part" id={id} size={40} />}
      name={part.name}
      note={kindOf(part)}
      onRename={(name) => perform(editor, [edit(renamePart, { part: id, name })])}
    />
  )
}

export function PictureDetails({ ids: [id = ''] }: { ids: readonly string[] }) {
  const part = usePuppet((p) => p.parts[id])
  const picture = usePuppet((p) => (part ? pictureOf(p, part) : null))
  return part?.content.kind === 'picture' && picture ? <PictureGroup key={picture.id} picture={picture} /> : null
}

export function LookGroup({ ids: [id = ''] }: { ids: readonly string[] }) {
  const editor = useEditor()
  const part = usePuppet((p) => p.parts[id])
  if (!part) return null
  return (
    <Group id="look" title="How it shows">
      <NumberField
        label="Opacity"
        value={Math.round(part.opacity * 100)}
        unit="%"
        rest={100}
        min={0}
        max={100}
        digits={0}
        onChange={(v) => v !== null && perform(editor, [edit(setPartOpacity, { part: id, opacity: v / 100 })])}
      />
      <label className="flex h-7 items-center gap-2">
        <span className="w-[76px] text-quiet">Visible</span>
        <Box checked={part.visible} onChange={(on) => perform(editor, [edit(showPart, { parts: [id], visible: on })])} />
      </label>
      <LayerFields part={part} />
    </Group>
  )
}

/** A group of several parts can be turned as a rounded form. */
function TurnButton({ id }: { id: string }) {
  const editor = useEditor()
  const count = usePuppet((p) => p.parts[id]?.children.length ?? 0)
  if (count < 2) return null
  return (
    <Button small onClick={() => openTurn(editor, id)}>
      Turn…
    </Button>
  )
}

/** Channels that are set by other fields: hidden by the eye, ordered in the roster. */
const CHOSEN = new Set(['shown', 'masked', 'alternate', 'before', 'way'])

/** Which alternate of a swap shows, as it is seen; while something is recorded that it shows is recorded. */
function AlternatePick({ id }: { id: string }) {
  const editor = useEditor()
  const parts = usePuppet((p) => p.parts)
  const address = partChannel(id, 'alternate')
  const shown = usePuppet(() => valueSeen(editor, address))
  if (!parts[id]?.swap) return null
  const alternates = alternatesOf({ parts }, id)
  return (
    <Field label="Shows">
      <Pick
        label="Alternate"
        value={String(shown)}
        options={[...alternates.map((a) => ({ id: String(a.alternate), label: a.name })), { id: '0', label: 'none' }]}
        onChange={(number) =>
          perform(editor, [seenAt(editor, { [address]: Number(number) })], `Another alternate of ${recordOf(parts, id).name}`)
        }
      />
    </Field>
  )
}

export function PoseGroup({ ids: [id = ''] }: { ids: readonly string[] }) {
  const editor = useEditor()
  return (
    <Group id="pose" title="Pose">
      <AlternatePick id={id} />
      {addressesOf('part', id)
        .filter((address) => !CHOSEN.has(nth(address.split('/'), 2)))
        .map((address) => (
          <ChannelField key={address} address={address} />
        ))}
      <div className="mt-1 flex flex-wrap gap-1.5">
        <Button small onClick={() => padFor(editor, id)}>
          Pad for this
        </Button>
        <Button small onClick={() => controlFor(editor, partChannel(id, 'angle'))}>
          Slider that turns it
        </Button>
        <TurnButton id={id} />
      </div>
    </Group>
  )
}

const HOME_FIELDS: readonly { key: keyof Placement; label: string; unit?: string; scale?: boolean }[] = [
  { key: 'x', label: 'Rest x', unit: 'px' },
  { key: 'y', label: 'Rest y', unit: 'px' },
  { key: 'angle', label: 'Turned', unit: '°' },
  { key: 'scaleX', label: 'Scale x', scale: true },
  { key: 'scaleY', label: 'Scale y', scale: true },
  { key: 'skew', label: 'Skew', unit: '°' },
]

export function HomeGroup({ ids: [id = ''] }: { ids: readonly string[] }) {
  const editor = useEditor()
  const home = usePuppet((p) => p.parts[id]?.home) ?? atHome()
  const pivot = usePuppet((p) => p.parts[id]?.pivot)
  return (
    <Group id="home" title="Rest position">
      {HOME_FIELDS.map(({ key, label, unit, scale }) => (
        <NumberField
          key={key}
          label={label}
          value={home[key]}
          {...(unit ? { unit } : {})}
          step={scale ? 0.05 : 1}
          digits={scale ? 3 : 1}
          onChange={(v) => v !== null && perform(editor, [edit(setHome, { part: id, home: { ...home, [key]: v } })])}
        />
      ))}
      {pivot && (
        <div className="flex items-center gap-2">
          <NumberField
            label="Pivot"
            value={pivot.x}
            unit="x"
            onChange={(v) => v !== null && perform(editor, [edit(setPivot, { part: id, pivot: { ...pivot, x: v } })])}
          />
          <NumberField
            label="Pivot y"
            hideLabel
            value={pivot.y}
            unit="y"
            onChange={(v) => v !== null && perform(editor, [edit(setPivot, { part: id, pivot: { ...pivot, y: v } })])}
          />
        </div>
      )}
    </Group>
  )
}
