/** The stack of a part's deformers: put on, ordered, switched, and the one that is worked on in numbers. */
import { ArrowDown, ArrowUp, Trash2 } from 'lucide-react'
import { freshId } from '@marionette/core/kernel/ids'
import type { Deformer, Part, Puppet } from '@marionette/core/puppet/schema'
import { commonGroup, topmostParts } from '@marionette/core/parts/tree'
import { addDeformer, deleteDeformer, orderDeformer, setDeformer } from '@marionette/core/deformers/commands'
import { setPose } from '@marionette/core/poses/commands'
import { boneOptions } from '../../panels/tree'
import { chooseDeformer, deformerOf, useDeform } from './worked'
import { openPuppet, perform, usePuppet, useRestOf } from '../../editor/document'
import { selectParts, useSession, setTool } from '../../editor/session'
import { Button, IconButton } from '../../ui/Button'
import { NameInput } from '../../ui/NameInput'
import { Segments } from '../../ui/Segments'
import { ChannelField } from '../../panels/ChannelField'
import { Field, Group } from '../../panels/Group'
import { Pick } from '../../ui/Pick'
import { HandleFields } from './HandleFields'
import { edit } from '@marionette/core/kernel/command'
import { channelAddress } from '@marionette/core/kernel/channel'
import { DEFORMER_VIEWS, viewOf } from './table'
import { useEditor, type Editor } from '../../editor/editor'
import { partOf } from '@marionette/core/parts/lookup'
import { Box } from '../../ui/Box'

/** All kinds, in the order of their table. */
export const KINDS = Object.keys(DEFORMER_VIEWS) as Deformer['kind'][]

/** A deformer of a kind, made to fit a part. */
function newDeformer(puppet: Puppet, part: string, kind: Deformer['kind'], only: readonly string[] | null): Promise<Deformer> {
  const view = viewOf({ kind })
  const same = partOf(puppet, part).deformers.filter((d) => d.kind === kind).length
  const name = same === 0 ? view.label : `${view.label} ${same + 1}`
  return view.make({ puppet, part, id: freshId('deformer'), name, only })
}

/** The selected parts without those in others of them, where a cage goes around several. */
function selectedTogether(editor: Editor): readonly string[] {
  const { selection } = useSession.of(editor).getState()
  return selection.kind === 'part' ? topmostParts(openPuppet(editor), selection.ids) : []
}

/**
 * Puts a deformer on a part, and takes the tool that moves it. Where several parts are selected a cage goes around all of
 * them, and stands at the group that they share.
 */
export async function putOn(editor: Editor, first: string, kind: Deformer['kind']): Promise<void> {
  const view = viewOf({ kind })
  const together = view.aroundSeveral ? selectedTogether(editor) : []
  const only = together.length > 1 ? together : null
  const part = only ? commonGroup(openPuppet(editor), only) : first
  try {
    const deformer = await newDeformer(openPuppet(editor), part, kind, only)
    const name = only ? `${only.length} parts` : partOf(openPuppet(editor), part).name
    if (!perform(editor, [edit(addDeformer, { part, deformer })], `Put ${view.label.toLowerCase()} on ${name}`)) return
    if (only) selectParts(editor, part)
    chooseDeformer(editor, deformer.id)
    if (useSession.of(editor).getState().bench === 'shape') setTool(editor, 'shape', 'deform')
    if (view.next) editor.notify(view.next)
  } catch (error) {
    editor.notify.error((error as Error).message)
  }
}

export function DeformersGroup({ part }: { part: Part }) {
  const editor = useEditor()
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
        {KINDS.map((kind) => (
          <Button key={kind} small onClick={() => void putOn(editor, part.id, kind)}>
            + {viewOf({ kind }).label}
            {viewOf({ kind }).aroundSeveral && several > 1 && ` around ${several}`}
          </Button>
        ))}
      </div>
      {current && <Fields key={current.id} part={part} deformer={current} />}
    </Group>
  )
}

function Row({ part, deformer, at, isCurrent }: { part: Part; deformer: Deformer; at: number; isCurrent: boolean }) {
  const editor = useEditor()
  const address = channelAddress('deformer', deformer.id, 'on')
  const isOn = usePuppet((p) => (p.pose[address] ?? Number(deformer.on)) >= 0.5)
  const Icon = viewOf(deformer).icon
  const move = (to: number): void => void perform(editor, [edit(orderDeformer, { part: part.id, deformer: deformer.id, index: to })])
  return (
    <li
      className={`group flex h-8 items-center gap-1.5 rounded-lg pl-1.5 ${isCurrent ? 'bg-tint' : 'hover:bg-tint'}`}
      onPointerDown={() => chooseDeformer(editor, deformer.id)}
    >
      <Box
        aria-label={`${deformer.name} acts`}
        checked={isOn}
        onChange={(on) =>
          perform(editor, [edit(setPose, { values: { [address]: Number(on) } })], on ? `${deformer.name} on` : `${deformer.name} off`)
        }
      />
      <Icon size={15} className="flex-none text-quiet" />
      <NameInput
        label={`Name of ${deformer.name}`}
        name={deformer.name}
        onRename={(name) =>
          perform(editor, [edit(setDeformer, { part: part.id, deformer: { ...deformer, name } })], `Rename ${deformer.name}`)
        }
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
        label={`Remove ${deformer.name}`}
        className="size-7"
        onClick={() => perform(editor, [edit(deleteDeformer, { part: part.id, deformer: deformer.id })], `Remove ${deformer.name}`)}
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
  const editor = useEditor()
  const puppet = useRestOf()
  const view = viewOf(deformer)
  const set = (next: Deformer, label = `Change ${deformer.name}`): void =>
    void perform(editor, [edit(setDeformer, { part: part.id, deformer: next })], label)
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
      {view.Fields && <view.Fields deformer={deformer} onChange={set} />}
      <HandleFields deformer={deformer} isPicture={part.content.kind === 'picture'} onChange={set} />
    </div>
  )
}
