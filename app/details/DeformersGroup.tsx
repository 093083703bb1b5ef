/** The stack of a part's deformers: put on, ordered, switched, and the one that is worked on in numbers. */
import { ArrowDown, ArrowUp, Grid3x3, Pin as PinIcon, Spline, Trash2 } from 'lucide-react'
import { toast } from 'sonner'
import { channelAddress } from '@marionette/core/document/channels'
import { freshId } from '@marionette/core/document/ids'
import type { Deformer, Part, Puppet } from '@marionette/core/document/schema'
import { commonGroup, topmostParts } from '@marionette/core/document/tree'
import { edit } from '@marionette/core/edit/command'
import { addDeformer, deleteDeformer, orderDeformer, setDeformer } from '@marionette/core/edit/deformers'
import { setPose } from '@marionette/core/edit/pose'
import { boneOptions } from '../roster/tree'
import { chooseDeformer, deformerOf, useDeform } from '../state/deform'
import { openPuppet, perform, usePuppet, useRestOf } from '../state/document'
import { takeTool } from '../stage/tools/tools'
import { selectParts, useSession } from '../state/session'
import { Button, IconButton } from '../ui/Button'
import { NameInput } from '../ui/NameInput'
import { Segments } from '../ui/Segments'
import { CageFields } from './CageFields'
import { ChannelField } from './ChannelField'
import { Field, Group, Pick } from './Group'
import { HandleFields } from './HandleFields'

const KINDS = {
  cage: { label: 'Cage', icon: Grid3x3 },
  bend: { label: 'Bend', icon: Spline },
  pins: { label: 'Pins', icon: PinIcon },
} as const

/** Points of a bend that is made along the middle of a part. */
const BEND_POINTS = 4

/** Fitting a deformer needs the geometry of regions, which is loaded when it is first asked for. */
async function newDeformer(puppet: Puppet, part: string, kind: Deformer['kind'], only: readonly string[] | null): Promise<Deformer> {
  const { bendAlong, cageAround, pinMesh } = await import('@marionette/core/artwork/deforming')
  const id = freshId('deformer')
  const same = puppet.parts[part]!.deformers.filter((d) => d.kind === kind).length
  const name = same === 0 ? KINDS[kind].label : `${KINDS[kind].label} ${same + 1}`
  if (kind === 'cage') return cageAround(puppet, part, id, name, only)
  return kind === 'bend' ? bendAlong(puppet, part, id, BEND_POINTS, name) : pinMesh(puppet, part, id, name)
}

/** The selected parts without those in others of them, where a cage goes around several. */
function selectedTogether(): readonly string[] {
  const { selection } = useSession.getState()
  return selection.kind === 'part' ? topmostParts(openPuppet(), selection.ids) : []
}

/**
 * Puts a deformer on a part, and takes the tool that moves it. Where several parts are selected a cage goes around all of
 * them, and stands at the group that they share.
 */
export async function putOn(first: string, kind: Deformer['kind']): Promise<void> {
  const together = kind === 'cage' ? selectedTogether() : []
  const only = together.length > 1 ? together : null
  const part = only ? commonGroup(openPuppet(), only) : first
  try {
    const deformer = await newDeformer(openPuppet(), part, kind, only)
    const name = only ? `${only.length} parts` : openPuppet().parts[part]!.name
    if (!perform([edit(addDeformer, { part, deformer })], `Put ${KINDS[kind].label.toLowerCase()} on ${name}`)) return
    if (only) selectParts(part)
    chooseDeformer(deformer.id)
    if (useSession.getState().bench === 'shape') takeTool('shape', 'deform')
    if (kind === 'pins') toast('Click on the part to put pins in; Alt-drag puts a splint in.')
  } catch (error) {
    toast.error((error as Error).message)
  }
}

export function DeformersGroup({ part }: { part: Part }) {
  const chosen = useDeform((s) => s.deformer)
  const current = deformerOf(part, chosen)
  const several = useSession((s) => (s.selection.kind === 'part' ? s.selection.ids.length : 0))
  return (
    <Group id="deformers" title="Deformers" aside={part.deformers.length > 0 && <span className="cap">{part.deformers.length}</span>}>
      {part.deformers.length === 0 && (
        <p className="mb-2 text-xs text-quiet">Nothing deforms it. A cage squashes, a bend curls, pins move spots of it.</p>
      )}
      <ul aria-label="Stack of deformers">
        {part.deformers.map((deformer, at) => (
          <Row key={deformer.id} part={part} deformer={deformer} at={at} isCurrent={deformer.id === current?.id} />
        ))}
      </ul>
      <div className="mt-1 flex gap-1.5">
        {(['cage', 'bend', 'pins'] as const).map((kind) => (
          <Button key={kind} small onClick={() => void putOn(part.id, kind)}>
            + {KINDS[kind].label}
            {kind === 'cage' && several > 1 && ` around ${several}`}
          </Button>
        ))}
      </div>
      {current && <Fields key={current.id} part={part} deformer={current} />}
    </Group>
  )
}

function Row({ part, deformer, at, isCurrent }: { part: Part; deformer: Deformer; at: number; isCurrent: boolean }) {
  const address = channelAddress('deformer', deformer.id, 'on')
  const isOn = usePuppet((p) => (p.pose[address] ?? Number(deformer.on)) >= 0.5)
  const Icon = KINDS[deformer.kind].icon
  const move = (to: number): void => void perform([edit(orderDeformer, { part: part.id, deformer: deformer.id, index: to })])
  return (
    <li
      className={`group flex h-8 items-center gap-1.5 rounded-lg pl-1.5 ${isCurrent ? 'bg-tint' : 'hover:bg-tint'}`}
      onPointerDown={() => chooseDeformer(deformer.id)}
    >
      <input
        type="checkbox"
        aria-label={`${deformer.name} acts`}
        className="size-4 flex-none accent-[var(--verdigris)]"
        checked={isOn}
        onChange={(e) =>
          perform(
            [edit(setPose, { values: { [address]: Number(e.target.checked) } })],
            e.target.checked ? `${deformer.name} on` : `${deformer.name} off`,
          )
        }
      />
      <Icon size={15} className="flex-none text-quiet" />
      <NameInput
        label={`Name of ${deformer.name}`}
        name={deformer.name}
        onRename={(name) => perform([edit(setDeformer, { part: part.id, deformer: { ...deformer, name } })], `Rename ${deformer.name}`)}
      />
      {at > 0 && (
        <IconButton label={`${deformer.name} acts earlier`} className="size-7" onClick={() => move(at - 1)}>
          <ArrowUp size={14} />
        </IconButton>
      )}
      {at < part.deformers.length - 1 && (
        <IconButton label={`${deformer.name} acts later`} className="size-7" onClick={() => move(at + 1)}>
          <ArrowDown size={14} />
        </IconButton>
      )}
      <IconButton
        label={`Take ${deformer.name} off`}
        className="size-7"
        onClick={() => perform([edit(deleteDeformer, { part: part.id, deformer: deformer.id })], `Take ${deformer.name} off`)}
      >
        <Trash2 size={14} />
      </IconButton>
    </li>
  )
}

const WHENS = [
  { value: 'before', label: 'Before bones' },
  { value: 'after', label: 'After bones' },
] as const

function Fields({ part, deformer }: { part: Part; deformer: Deformer }) {
  const puppet = useRestOf()
  const set = (next: Deformer, label = `Change ${deformer.name}`): void =>
    void perform([edit(setDeformer, { part: part.id, deformer: next })], label)
  return (
    <div className="mt-2 border-t border-hair pt-2">
      <ChannelField address={channelAddress('deformer', deformer.id, 'amount')} />
      {deformer.only && (
        <Field label="Around">
          <span className="flex items-center gap-2">
            <span className="truncate" title={deformer.only.map((id) => puppet.parts[id]?.name).join(', ')}>
              {deformer.only.map((id) => puppet.parts[id]?.name).join(', ')}
            </span>
            <Button small onClick={() => set({ ...deformer, only: null }, `${deformer.name} around all`)}>
              All
            </Button>
          </span>
        </Field>
      )}
      <Field label="Acts">
        <Segments label="When it acts" value={deformer.when} options={WHENS} onChange={(when) => set({ ...deformer, when })} />
      </Field>
      {deformer.when === 'after' && (
        <Field label="Goes with">
          <Pick
            label="Bone that it goes along with"
            value={deformer.bone ?? ''}
            options={[{ id: '', label: 'Nothing: it stays' }, ...boneOptions(puppet)]}
            onChange={(bone) => set({ ...deformer, bone: bone || null })}
          />
        </Field>
      )}
      {deformer.kind === 'cage' && <CageFields cage={deformer} onChange={set} />}
      {deformer.kind === 'bend' && (
        <>
          <Check
            label="Stretch"
            says="drawn out with the curve"
            checked={deformer.stretch}
            onChange={(stretch) => set({ ...deformer, stretch })}
          />
          <Check
            label="Hold start"
            says="keeps its direction"
            checked={deformer.holdStart}
            onChange={(holdStart) => set({ ...deformer, holdStart })}
          />
          <Check
            label="Hold end"
            says="keeps its direction"
            checked={deformer.holdEnd}
            onChange={(holdEnd) => set({ ...deformer, holdEnd })}
          />
        </>
      )}
      <HandleFields deformer={deformer} isPicture={part.content.kind === 'picture'} onChange={set} />
    </div>
  )
}

export function Check({
  label,
  says,
  checked,
  onChange,
}: {
  label: string
  says: string
  checked: boolean
  onChange: (on: boolean) => void
}) {
  return (
    <label className="flex h-7 items-center gap-2">
      <span className="w-[70px] flex-none text-quiet">{label}</span>
      <input type="checkbox" className="size-4 accent-[var(--verdigris)]" checked={checked} onChange={(e) => onChange(e.target.checked)} />
      <span className="cap">{says}</span>
    </label>
  )
}
