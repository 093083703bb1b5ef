/** Labels, splitting and mirroring, for all selected bones at once. */
import { useState } from 'react'
import { labelBones } from '@marionette/core/skeleton/commands'
import { perform, usePuppet } from '../../editor/document'
import { useSession } from '../../editor/session'
import { Button } from '../../ui/Button'
import { NumberField } from '../../ui/NumberField'
import { alignSelected, distributeSelected, insertBefore, mirrorSelected, splitSelected, straightenSelected } from './boneMaking'
import { Field, Group } from '../../panels/Group'
import { edit } from '@marionette/core/kernel/command'
import { useEditor } from '../../editor/editor'
import { nth } from '@marionette/core/kernel/sure'
import { Box } from '../../ui/Box'

export function BoneMakingGroup({ ids }: { ids: readonly string[] }) {
  const editor = useEditor()
  const middle = usePuppet((p) => p.canvas.width / 2)
  const [pieces, setPieces] = useState(2)
  const [at, setAt] = useState<number | null>(null)
  return (
    <Group id="making" title={ids.length > 1 ? `Make from ${ids.length} bones` : 'Make from it'}>
      <div className="flex items-center gap-2">
        <NumberField label="Pieces" value={pieces} min={2} max={64} digits={0} onChange={(v) => v !== null && setPieces(v)} />
        <Button small onClick={() => splitSelected(editor, ids, pieces)}>
          Split
        </Button>
      </div>
      <div className="mt-1 flex items-center gap-2">
        <NumberField label="Across x" value={at ?? middle} rest={middle} digits={0} onChange={(v) => setAt(v)} />
        <Button small onClick={() => mirrorSelected(editor, ids, at ?? middle)}>
          Mirror
        </Button>
      </div>
      <div className="mt-1.5 flex flex-wrap gap-1.5">
        {ids.length === 1 && (
          <Button small onClick={() => insertBefore(editor, nth(ids, 0))}>
            Insert before
          </Button>
        )}
        {ids.length > 1 && (
          <>
            <Button small onClick={() => straightenSelected(editor, ids)}>
              Straighten
            </Button>
            <Button small onClick={() => alignSelected(editor, ids, 'y')}>
              Level
            </Button>
            <Button small onClick={() => alignSelected(editor, ids, 'x')}>
              Upright
            </Button>
          </>
        )}
        {ids.length > 2 && (
          <>
            <Button small onClick={() => distributeSelected(editor, ids, 'x')}>
              Spread across
            </Button>
            <Button small onClick={() => distributeSelected(editor, ids, 'y')}>
              Spread down
            </Button>
          </>
        )}
      </div>
    </Group>
  )
}

export function LabelField({ ids }: { ids: readonly string[] }) {
  const editor = useEditor()
  const label = usePuppet((p) => p.bones[nth(ids, 0)]?.label ?? '')
  const isShown = useSession((s) => s.weights)
  return (
    <div className="border-t border-hair py-3">
      <Field label="Label">
        <input
          key={`${ids[0]}/${label}`}
          aria-label="Label of the bone"
          className="h-7 w-full min-w-0 rounded-lg bg-tint px-2 outline-none focus:shadow-[0_0_0_2px_var(--cord)]"
          maxLength={60}
          placeholder="none"
          defaultValue={label}
          onBlur={(e) =>
            e.target.value.trim() !== label && perform(editor, [edit(labelBones, { bones: [...ids], label: e.target.value.trim() })])
          }
          onKeyDown={(e) => {
            e.stopPropagation()
            if (e.key === 'Enter') e.currentTarget.blur()
            if (e.key === 'Escape') {
              e.currentTarget.value = label
              e.currentTarget.blur()
            }
          }}
        />
      </Field>
      <label className="flex h-7 items-center gap-2">
        <span className="w-[70px] text-quiet">Weights</span>
        <Box checked={isShown} onChange={(on) => useSession.of(editor).setState({ weights: on })} />
        <span className="cap">as heat on the stage</span>
      </label>
    </div>
  )
}
