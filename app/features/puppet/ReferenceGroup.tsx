/** A picture to compare with, guides to align by, and the stage seen in a mirror. Nothing of it is exported. */
import { Plus, X } from 'lucide-react'
import type { Guide, Reference } from '@marionette/core/puppet/schema'
import { setGuides, setReference } from '@marionette/core/puppet/puppetCommands'
import { perform, usePuppet } from '../../editor/document'
import { useSession } from '../../editor/session'
import { Button, IconButton } from '../../ui/Button'
import { NumberField } from '../../ui/NumberField'
import { Segments } from '../../ui/Segments'
import { Field, Group } from '../../panels/Group'
import { edit } from '@marionette/core/kernel/command'
import { REFERENCES, takeReference } from './reference'
import { FileButton } from '../../ui/FileButton'
import { useEditor } from '../../editor/editor'
import { Box } from '../../ui/Box'

export function ReferenceGroup() {
  const editor = useEditor()
  const reference = usePuppet((p) => p.reference)
  const set = (change: Partial<Reference>): void =>
    void (reference && perform(editor, [edit(setReference, { reference: { ...reference, ...change } })]))
  return (
    <Group id="reference" title="Reference picture">
      {reference ? (
        <>
          <Segments
            label="Where it lies"
            value={!reference.visible ? 'hidden' : reference.over ? 'over' : 'under'}
            options={[
              { value: 'under', label: 'Under' },
              { value: 'over', label: 'Over' },
              { value: 'hidden', label: 'Hidden' },
            ]}
            onChange={(v) => set({ visible: v !== 'hidden', over: v === 'over' })}
          />
          <NumberField
            label="Opacity"
            value={Math.round(reference.opacity * 100)}
            unit="%"
            min={0}
            max={100}
            digits={0}
            onChange={(v) => v !== null && set({ opacity: v / 100 })}
          />
          <div className="flex items-center gap-2">
            <NumberField label="Place" value={reference.x} unit="x" onChange={(v) => v !== null && set({ x: v })} />
            <NumberField label="Place y" hideLabel value={reference.y} unit="y" onChange={(v) => v !== null && set({ y: v })} />
          </div>
          <NumberField
            label="Scale"
            value={Math.round(reference.scale * 1000) / 10}
            unit="%"
            min={1}
            max={5000}
            onChange={(v) => v !== null && set({ scale: v / 100 })}
          />
          <Button small className="mt-1" onClick={() => perform(editor, [edit(setReference, { reference: null })], 'Remove reference')}>
            Remove
          </Button>
        </>
      ) : (
        <>
          <p className="mb-2 text-xs text-quiet">A drawing to compare with, under or over everything. It is never exported.</p>
          <FileButton small testId="reference-input" accept={REFERENCES} onFiles={([file]) => void takeReference(editor, file)}>
            Choose a picture
          </FileButton>
        </>
      )}
    </Group>
  )
}

export function GuidesGroup() {
  const editor = useEditor()
  const guides = usePuppet((p) => p.guides)
  const canvas = usePuppet((p) => p.canvas)
  const mirrored = useSession((s) => s.mirrored)
  const set = (next: readonly Guide[]): void => void perform(editor, [edit(setGuides, { guides: [...next] })])
  return (
    <Group id="guides" title="Guides and mirror">
      {guides.map((guide, i) => (
        <div key={i} className="flex items-center gap-1">
          <NumberField
            label={guide.axis === 'x' ? 'Upright' : 'Level'}
            value={guide.at}
            unit="px"
            onChange={(v) => v !== null && set(guides.map((g, k) => (k === i ? { ...g, at: v } : g)))}
          />
          <IconButton label="Remove this guide" className="size-6" onClick={() => set(guides.filter((_, k) => k !== i))}>
            <X size={13} />
          </IconButton>
        </div>
      ))}
      <div className="mt-1 flex gap-2">
        <Button small onClick={() => set([...guides, { axis: 'x', at: Math.round(canvas.width / 2) }])}>
          <Plus size={13} /> Upright
        </Button>
        <Button small onClick={() => set([...guides, { axis: 'y', at: Math.round(canvas.height / 2) }])}>
          <Plus size={13} /> Level
        </Button>
      </div>
      <Field label="Mirror">
        <label className="flex items-center gap-2">
          <Box checked={mirrored} onChange={(on) => useSession.of(editor).setState({ mirrored: on })} />
          <span className="text-xs text-quiet">See the stage mirrored</span>
        </label>
      </Field>
    </Group>
  )
}
