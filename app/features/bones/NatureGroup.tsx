/** How bones answer to their parents, how far they may be drawn out, and whether they are locked. */
import { lockBones, setBoneNature } from '@marionette/core/skeleton/lines'
import { perform } from '../../editor/document'
import { NumberField } from '../../ui/NumberField'
import { Check } from '../deformers/Check'
import { Group } from '../../panels/Group'
import { edit } from '@marionette/core/kernel/command'
import type { Bone } from '@marionette/core/bones/records'
import { influenceOf } from '@marionette/core/bones/tree'
import { useEditor } from '../../editor/editor'

/** How far and how strongly bones act on what is weighed by reach; without strength they are never proposed. */
export function InfluenceGroup({ bone, ids }: { bone: Bone; ids: readonly string[] }) {
  const editor = useEditor()
  const set = (influence: Partial<Bone['influence']>): void =>
    void perform(editor, [edit(setBoneNature, { bones: [...ids], influence })], 'Set influence')
  const { radius, strength } = bone.influence
  return (
    <Group id="influence" title="Influence">
      <NumberField
        label="Reach"
        value={radius}
        empty={String(Math.round(influenceOf(bone).radius))}
        unit="px"
        min={1}
        digits={0}
        onChange={(v) => set({ radius: v })}
      />
      <NumberField
        label="Strength"
        value={Math.round(strength * 100)}
        rest={100}
        unit="%"
        min={0}
        max={100}
        digits={0}
        onChange={(v) => v !== null && set({ strength: v / 100 })}
      />
      <p className="mt-1 text-xs text-quiet">
        {strength === 0
          ? 'A control bone: nothing bends with it by itself.'
          : 'Empty reach is half its length. “Weigh by reach” goes by it.'}
      </p>
    </Group>
  )
}

export function NatureGroup({ bone, ids }: { bone: Bone; ids: readonly string[] }) {
  const editor = useEditor()
  const bones = [...ids]
  const set = (more: Omit<Parameters<typeof setBoneNature.apply>[1], 'bones'>): void =>
    void perform(editor, [edit(setBoneNature, { bones, ...more })])
  const { lengths, inherits, keepsVolume, locked } = bone
  return (
    <Group id="nature" title="Follows and stretches">
      <Check label="Turn" says="turns with its parent" checked={inherits.turn} onChange={(turn) => set({ inherits: { turn } })} />
      <Check label="Length" says="grows with its parent" checked={inherits.scale} onChange={(scale) => set({ inherits: { scale } })} />
      <Check label="Area" says="thins as it grows" checked={keepsVolume} onChange={(on) => set({ keepsVolume: on })} />
      <div className="flex items-center gap-2">
        <NumberField
          label="Lengths"
          value={Math.round(lengths.min * 100)}
          unit="%"
          digits={0}
          min={5}
          max={100}
          onChange={(v) => v !== null && set({ lengths: { min: v / 100 } })}
        />
        <span className="text-quiet">to</span>
        <NumberField
          label="Greatest length"
          hideLabel
          value={Math.round(lengths.max * 100)}
          unit="%"
          digits={0}
          min={100}
          max={2000}
          onChange={(v) => v !== null && set({ lengths: { max: v / 100 } })}
        />
      </div>
      <Check
        label="Locked"
        says="the pointer misses it"
        checked={locked}
        onChange={(on) => perform(editor, [edit(lockBones, { bones, locked: on })])}
      />
    </Group>
  )
}
