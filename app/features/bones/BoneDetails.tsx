/** Details of a bone: its angle in the pose, or its place at rest; limits and colours apply to all that are selected. */
import { counted } from '@marionette/core/kernel/counted'
import {
  chainOf,
  colourChain,
  deleteBone,
  dragBoneEnd,
  hangBone,
  renameBone,
  setBoneEnds,
  setLimits,
} from '@marionette/core/bones/commands'
import { setRestAngle } from '@marionette/core/skeleton/lines'
import { openPuppet, perform, usePuppet, useRestOf } from '../../editor/document'
import { selectNothing, selectParts } from '../../editor/session'
import { boneOptions } from '../../panels/tree'
import { Thumb } from '../../pictures/Thumb'
import { Button } from '../../ui/Button'
import { NumberField } from '../../ui/NumberField'
import { ChannelField } from '../../panels/ChannelField'
import { Field, Group } from '../../panels/Group'
import { Pick } from '../../ui/Pick'
import { NameHeading } from '../../panels/NameHeading'
import { edit } from '@marionette/core/kernel/command'
import { CHAIN_COLOURS, type Bone } from '@marionette/core/bones/records'
import { isWithinBone, topmostBones } from '@marionette/core/bones/tree'
import { partsOfBone } from '@marionette/core/binds/tree'
import { boneChannel } from '@marionette/core/bones/channels'
import { useEditor, type Editor } from '../../editor/editor'

export function BoneHeading({ ids }: { ids: readonly string[] }) {
  const editor = useEditor()
  const id = ids[0] ?? ''
  const bone = usePuppet((p) => p.bones[id])
  const parentName = usePuppet((p) => p.bones[p.bones[id]?.parent ?? '']?.name)
  if (!bone) return null
  return (
    <NameHeading
      lead={<Thumb kind="bone" id={id} size={40} />}
      name={bone.name}
      note={ids.length > 1 ? `and ${ids.length - 1} more bones` : parentName ? `Bone on ${parentName}` : 'Root bone'}
      onRename={(name) => perform(editor, [edit(renameBone, { bone: id, name })])}
    />
  )
}

export function BonePose({ bone }: { bone: Bone }) {
  const { id } = bone
  return (
    <Group id="pose" title="Pose">
      <ChannelField address={boneChannel(id, 'angle')} />
      {bone.parent === null && (
        <>
          <ChannelField address={boneChannel(id, 'x')} />
          <ChannelField address={boneChannel(id, 'y')} />
        </>
      )}
      <ChannelField address={boneChannel(id, 'length')} />
      <p className="text-xs text-quiet">{limitWords(bone)}</p>
    </Group>
  )
}

function limitWords({ limits: { min, max } }: Bone): string {
  if (min === null && max === null) return 'Turns without limits.'
  return `Turns from ${min === null ? 'anywhere' : `${min}°`} to ${max === null ? 'anywhere' : `${max}°`}.`
}

const moveEnd = (editor: Editor, bone: Bone, which: 'start' | 'end', to: { x: number; y: number }): void =>
  void perform(editor, [edit(setBoneEnds, dragBoneEnd(openPuppet(editor), bone.id, which, to))], `Move ${bone.name}`)

export function RestGroup({ bone }: { bone: Bone }) {
  const editor = useEditor()
  const puppet = useRestOf()
  const { start, end } = bone
  const length = Math.hypot(end.x - start.x, end.y - start.y)
  const stretch = (v: number): void => {
    const k = v / length
    moveEnd(editor, bone, 'end', { x: start.x + (end.x - start.x) * k, y: start.y + (end.y - start.y) * k })
  }
  const parents = [{ id: '', label: 'Nothing' }, ...boneOptions(puppet).filter((o) => !isWithinBone(puppet, o.id, bone.id))]
  return (
    <Group id="rest" title="At rest">
      <Field label="Parent">
        <Pick
          label="Parent bone"
          value={bone.parent ?? ''}
          options={parents}
          onChange={(parent) => perform(editor, [edit(hangBone, { bone: bone.id, parent: parent || null })])}
        />
      </Field>
      {(['start', 'end'] as const).map((which) => (
        <div key={which} className="flex flex-wrap items-center gap-x-2">
          <NumberField
            label={which === 'start' ? 'Start' : 'End'}
            value={bone[which].x}
            unit="x"
            onChange={(v) => v !== null && moveEnd(editor, bone, which, { ...bone[which], x: v })}
          />
          <NumberField
            label={`${which} y`}
            hideLabel
            value={bone[which].y}
            unit="y"
            onChange={(v) => v !== null && moveEnd(editor, bone, which, { ...bone[which], y: v })}
          />
        </div>
      ))}
      <NumberField label="Length" value={length} unit="px" min={1} onChange={(v) => v !== null && stretch(v)} />
      <NumberField
        label="Direction"
        value={(Math.atan2(start.y - end.y, end.x - start.x) * 180) / Math.PI}
        unit="°"
        onChange={(v) => v !== null && perform(editor, [edit(setRestAngle, { bone: bone.id, degrees: v })], `Turn ${bone.name} at rest`)}
      />
    </Group>
  )
}

interface ManyBones {
  readonly bone: Bone
  readonly ids: readonly string[]
}

export function LimitsGroup({ bone, ids }: ManyBones) {
  const editor = useEditor()
  const { min, max } = bone.limits
  const set = (limits: Bone['limits']): void =>
    void perform(
      editor,
      ids.map((id) => edit(setLimits, { bone: id, limits })),
    )
  return (
    <Group id="limits" title="Limits">
      <div className="flex items-center gap-2">
        <NumberField label="From" value={min} unit="°" empty="none" digits={0} max={0} onChange={(v) => set({ min: v, max })} />
        <span className="text-quiet">to</span>
        <NumberField
          label="Upper limit"
          hideLabel
          value={max}
          unit="°"
          empty="none"
          digits={0}
          min={0}
          onChange={(v) => set({ min, max: v })}
        />
      </div>
    </Group>
  )
}

export function ColourGroup({ bone, ids }: ManyBones) {
  const editor = useEditor()
  return (
    <Group id="colour" title="Chain colour">
      <div className="flex gap-[7px]">
        {Array.from({ length: CHAIN_COLOURS }, (_, i) => i + 1).map((colour) => (
          <button
            key={colour}
            type="button"
            aria-label={`Chain colour ${colour}`}
            aria-pressed={bone.colour === colour}
            className={`size-[18px] rounded-full ${bone.colour === colour ? 'shadow-[0_0_0_2px_var(--paper),0_0_0_3.5px_var(--ink)]' : ''}`}
            style={{ background: `var(--chain-${colour})` }}
            onClick={() =>
              perform(editor, [edit(colourChain, { bones: [...new Set(ids.flatMap((id) => chainOf(openPuppet(editor), id)))], colour })])
            }
          />
        ))}
      </div>
    </Group>
  )
}

export function FollowersGroup({ id }: { id: string }) {
  const editor = useEditor()
  const puppet = useRestOf()
  const parts = partsOfBone(puppet, id)
  return (
    <Group id="followers" title="Moves" aside={<span className="cap">{counted(parts.length, 'part')}</span>}>
      {parts.length === 0 && (
        <p className="text-xs text-quiet">Nothing follows it yet. Take the Bind tool and click the parts that should.</p>
      )}
      {parts.map((part) => (
        <button
          key={part.id}
          type="button"
          className="flex h-[30px] w-full items-center gap-2 rounded-lg text-left hover:bg-tint"
          onClick={() => selectParts(editor, part.id)}
        >
          <Thumb kind="part" id={part.id} size={24} />
          <span className="flex-1 truncate">{part.name}</span>
          <span className="cap">{part.bind?.kind}</span>
        </button>
      ))}
    </Group>
  )
}

export function DeleteGroup({ bone, ids }: ManyBones) {
  const editor = useEditor()
  const remove = (withChildren: boolean): void => {
    const tops = withChildren ? topmostBones(openPuppet(editor), ids) : ids
    const label = ids.length > 1 ? `Delete ${ids.length} bones` : `Delete ${bone.name}`
    if (
      perform(
        editor,
        tops.map((id) => edit(deleteBone, { bone: id, withChildren })),
        label,
      )
    )
      selectNothing(editor)
  }
  return (
    <div className="flex flex-wrap gap-2 border-t border-hair py-3">
      <Button small onClick={() => remove(false)}>
        {ids.length > 1 ? 'Delete bones' : 'Delete bone'}
      </Button>
      {bone.children.length > 0 && (
        <Button small onClick={() => remove(true)}>
          Delete with branch
        </Button>
      )}
    </div>
  )
}
