/** Details of a part: pose or home, what it follows, and how it shows. */
import { addressesOf, partChannel } from '@marionette/core/document/channels'
import { pictureOf } from '@marionette/core/document/pictures'
import type { Placement } from '@marionette/core/document/schema'
import { edit } from '@marionette/core/edit/command'
import { renamePart, setHome, setPartOpacity, setPivot, showPart } from '@marionette/core/edit/parts'
import { atHome } from '@marionette/core/document/new'
import { alternatesOf } from '@marionette/core/edit/swaps'
import { perform, usePuppet } from '../state/document'
import { seenAt, valueSeen } from '../state/own'
import { useSession } from '../state/session'
import { Thumb } from '../roster/Thumb'
import { NumberField } from '../ui/NumberField'
import { BindGroup } from './BindGroup'
import { ChannelField } from './ChannelField'
import { DeformersGroup } from './DeformersGroup'
import { controlFor, padFor } from '../controls/making'
import { openTurn } from '../responses/turning'
import { RespondsGroup } from '../responses/RespondsGroup'
import { Button } from '../ui/Button'
import { Field, Group, Pick } from './Group'
import { LayerFields } from './LayerFields'
import { JointsGroup } from './JointsGroup'
import { MergeGroup } from './MergeGroup'
import { NameHeading } from './NameHeading'
import { NotesGroup } from './NotesGroup'
import { TwinGroup } from './TwinGroup'
import { PaletteGroup } from '../touch/PaletteGroup'
import { PartViews } from '../views/ViewsGroup'
import { PictureGroup } from './PictureGroup'

export function PartDetails({ id }: { id: string }) {
  const part = usePuppet((p) => p.parts[id])
  const isRoot = usePuppet((p) => p.root === id)
  const picture = usePuppet((p) => (part ? pictureOf(p, part) : null))
  const atRest = useSession((s) => s.bench === 'bones')
  if (!part) return null
  const kind = part.swap
    ? `Swap of ${part.children.length}`
    : part.content.kind === 'group'
      ? `Group of ${part.children.length}`
      : part.content.kind === 'picture'
        ? 'Picture'
        : 'Drawing'
  return (
    <>
      <NameHeading
        lead={<Thumb kind="part" id={id} size={40} />}
        name={part.name}
        note={kind}
        onRename={(name) => perform([edit(renamePart, { part: id, name })])}
      />
      {atRest ? <HomeGroup id={id} /> : <PoseGroup id={id} />}
      {!isRoot && <RespondsGroup family="part" id={id} channels={addressesOf('part', id)} />}
      <PaletteGroup />
      <BindGroup id={id} />
      <DeformersGroup part={part} />
      {part.content.kind === 'picture' && picture && <PictureGroup key={picture.id} picture={picture} />}
      {!isRoot && (
        <Group id="look" title="How it shows">
          <NumberField
            label="Opacity"
            value={Math.round(part.opacity * 100)}
            unit="%"
            rest={100}
            min={0}
            max={100}
            digits={0}
            onChange={(v) => v !== null && perform([edit(setPartOpacity, { part: id, opacity: v / 100 })])}
          />
          <label className="flex h-7 items-center gap-2">
            <span className="w-[76px] text-quiet">Visible</span>
            <input
              type="checkbox"
              className="size-4 accent-[var(--verdigris)]"
              checked={part.visible}
              onChange={(e) => perform([edit(showPart, { parts: [id], visible: e.target.checked })])}
            />
          </label>
          <LayerFields part={part} />
        </Group>
      )}
      {!isRoot && part.content.kind === 'group' && part.children.length > 0 && <MergeGroup key={id} part={part} />}
      <PartViews id={id} />
      {!isRoot && <JointsGroup part={id} />}
      {!isRoot && <TwinGroup key={`twin-${id}`} part={part} />}
      {!isRoot && <NotesGroup part={part} />}
    </>
  )
}

/** A group of several parts can be turned as a rounded form. */
function TurnButton({ id }: { id: string }) {
  const count = usePuppet((p) => p.parts[id]?.children.length ?? 0)
  if (count < 2) return null
  return (
    <Button small onClick={() => openTurn(id)}>
      Turn…
    </Button>
  )
}

/** Channels that are set by other fields: hidden by the eye, ordered in the roster. */
const CHOSEN = new Set(['shown', 'masked', 'alternate', 'before', 'way'])

/** Which alternate of a swap shows, as it is seen; while something is recorded that it shows is recorded. */
function AlternatePick({ id }: { id: string }) {
  const parts = usePuppet((p) => p.parts)
  const address = partChannel(id, 'alternate')
  const shown = usePuppet(() => valueSeen(address))
  if (!parts[id]?.swap) return null
  const alternates = alternatesOf({ parts }, id)
  return (
    <Field label="Shows">
      <Pick
        label="Alternate"
        value={String(shown)}
        options={[...alternates.map((a) => ({ id: String(a.alternate), label: a.name })), { id: '0', label: 'none' }]}
        onChange={(number) => perform([seenAt({ [address]: Number(number) })], `Another alternate of ${parts[id]!.name}`)}
      />
    </Field>
  )
}

function PoseGroup({ id }: { id: string }) {
  return (
    <Group id="pose" title="Pose">
      <AlternatePick id={id} />
      {addressesOf('part', id)
        .filter((address) => !CHOSEN.has(address.split('/')[2]!))
        .map((address) => (
          <ChannelField key={address} address={address} />
        ))}
      <div className="mt-1 flex flex-wrap gap-1.5">
        <Button small onClick={() => padFor(id)}>
          Pad for this
        </Button>
        <Button small onClick={() => controlFor(partChannel(id, 'angle'))}>
          Slider that turns it
        </Button>
        <TurnButton id={id} />
      </div>
    </Group>
  )
}

const HOME_FIELDS: readonly { key: keyof Placement; label: string; unit?: string; scale?: boolean }[] = [
  { key: 'x', label: 'Home x', unit: 'px' },
  { key: 'y', label: 'Home y', unit: 'px' },
  { key: 'angle', label: 'Turned', unit: '°' },
  { key: 'scaleX', label: 'Scale x', scale: true },
  { key: 'scaleY', label: 'Scale y', scale: true },
  { key: 'skew', label: 'Skew', unit: '°' },
]

function HomeGroup({ id }: { id: string }) {
  const home = usePuppet((p) => p.parts[id]?.home) ?? atHome()
  const pivot = usePuppet((p) => p.parts[id]?.pivot)
  return (
    <Group id="home" title="Home, at rest">
      {HOME_FIELDS.map(({ key, label, unit, scale }) => (
        <NumberField
          key={key}
          label={label}
          value={home[key]}
          {...(unit ? { unit } : {})}
          step={scale ? 0.05 : 1}
          digits={scale ? 3 : 1}
          onChange={(v) => v !== null && perform([edit(setHome, { part: id, home: { ...home, [key]: v } })])}
        />
      ))}
      {pivot && (
        <div className="flex items-center gap-2">
          <NumberField
            label="Pivot"
            value={pivot.x}
            unit="x"
            onChange={(v) => v !== null && perform([edit(setPivot, { part: id, pivot: { ...pivot, x: v } })])}
          />
          <NumberField
            label="Pivot y"
            hideLabel
            value={pivot.y}
            unit="y"
            onChange={(v) => v !== null && perform([edit(setPivot, { part: id, pivot: { ...pivot, y: v } })])}
          />
        </div>
      )}
    </Group>
  )
}
