/** Fitting a template: which part plays which role, what is missing on either side, and the skeleton in one press. */
import { DndContext, DragOverlay, PointerSensor, pointerWithin, useSensor, useSensors, type DragEndEvent } from '@dnd-kit/core'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useMemo, useRef, useState } from 'react'
import { createPortal } from 'react-dom'
import { toast } from 'sonner'
import { freshId } from '@marionette/core/document/ids'
import { roleLabel } from '@marionette/core/roles/roles'
import { TEMPLATES } from '@marionette/core/template/builtin'
import { outOfOrder } from '@marionette/core/template/order'
import { templateOf } from '@marionette/core/template/saved'
import type { Template } from '@marionette/core/template/template'
import { listTemplates, removeTemplate, saveTemplate } from '../state/api'
import { openPuppet, perform, useDocument } from '../state/document'
import { openPanel, selectParts } from '../state/session'
import { Thumb } from '../roster/Thumb'
import { Button } from '../ui/Button'
import { Sheet } from '../ui/Sheet'
import { Cancelled, fitInWorker } from '../workers/client'
import { editsOf } from '../workers/edits'
import type { Fitted } from '../workers/fitting'
import { Figure } from './Figure'
import { bestTemplate, readRoles, type Given } from './fitting'
import { PartRoles } from './PartRoles'
import { TemplateList } from './TemplateList'

export default function FitSheet() {
  const [result, setResult] = useState<Fitted | null>(null)
  const close = (): void => openPanel(null)
  if (result) return <Result result={result} onClose={close} />
  return (
    <Sheet
      full
      open
      onClose={close}
      title="Fit a template"
      text="Names say what parts are. Drop a part on the figure where that is wrong or missing, then fit: bones, pivots and binds come from the drawing itself."
    >
      <Choosing onDone={setResult} />
    </Sheet>
  )
}

function Choosing({ onDone }: { onDone: (result: Fitted) => void }) {
  const puppet = useDocument((s) => s.puppet!)
  const queries = useQueryClient()
  const saved = useQuery({ queryKey: ['templates'], queryFn: listTemplates })
  const templates = useMemo(() => [...TEMPLATES, ...(saved.data ?? [])], [saved.data])
  const [id, setId] = useState(() => bestTemplate(openPuppet(), TEMPLATES).id)
  const template = templates.find((t) => t.id === id) ?? TEMPLATES[0]!
  const [given, setGiven] = useState<Given>(new Map())
  const [role, setRole] = useState<string | null>(null)
  const [replace, setReplace] = useState(true)
  const [reorder, setReorder] = useState(false)
  const [progress, setProgress] = useState<number | null>(null)
  const abort = useRef<AbortController | null>(null)
  const reading = useMemo(() => readRoles(puppet, template, given), [puppet, template, given])
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 4 } }))
  const give = (part: string, to: string | null): void => setGiven(new Map(given).set(part, to))
  const [dragged, setDragged] = useState<string | null>(null)
  const drop = ({ active, over }: DragEndEvent): void => {
    setDragged(null)
    const on = String(over?.id ?? '')
    if (on.startsWith('role ')) give(String(active.id), on.slice(5))
  }
  const nameOf = (part: string): string => puppet.parts[part]?.name ?? ''
  const fit = async (): Promise<void> => {
    abort.current = new AbortController()
    setProgress(0)
    try {
      const fitted = await fitInWorker(
        { puppet, template, roles: reading.assignment.roles, replace, reorder },
        setProgress,
        abort.current.signal,
      )
      if (perform(editsOf(fitted.edits), `Fit ${template.name}`)) onDone(fitted)
    } catch (error) {
      if (!(error instanceof Cancelled)) toast.error((error as Error).message)
    } finally {
      setProgress(null)
    }
  }
  const keep = async (): Promise<void> => {
    try {
      const made: Template = templateOf(puppet, freshId('template'), `${puppet.name}’s skeleton`)
      await saveTemplate(made)
      await queries.invalidateQueries({ queryKey: ['templates'] })
      setId(made.id)
      toast.success(`${made.name} is kept as a template.`)
    } catch (error) {
      toast.error((error as Error).message)
    }
  }
  const drop1 = async (gone: string): Promise<void> => {
    await removeTemplate(gone).catch((error: Error) => toast.error(error.message))
    await queries.invalidateQueries({ queryKey: ['templates'] })
  }
  const bones = Object.keys(puppet.bones).length
  const found = reading.assignment.roles.size
  const misplaced = useMemo(
    () => outOfOrder(puppet, template, Object.fromEntries([...reading.assignment.roles].map(([key, { part }]) => [part, key]))),
    [puppet, template, reading],
  )
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={pointerWithin}
      onDragStart={({ active }) => setDragged(String(active.id))}
      onDragCancel={() => setDragged(null)}
      onDragEnd={drop}
    >
      <div className="grid grid-cols-[190px_330px_1fr] gap-5">
        <div className="flex flex-col">
          <TemplateList puppet={puppet} templates={templates} chosen={template.id} onChoose={setId} onRemove={(gone) => void drop1(gone)} />
          {bones > 0 && (
            <Button small className="mt-3 self-start" onClick={() => void keep()}>
              Keep this skeleton as a template
            </Button>
          )}
        </div>
        <Figure template={template} reading={reading} nameOf={nameOf} chosen={role} onChoose={(r) => setRole(r === role ? null : r)} />
        <PartRoles puppet={puppet} reading={reading} given={given} wanted={role} onGive={give} />
      </div>
      <footer className="mt-4 flex items-center gap-4 border-t border-hair pt-4">
        {progress === null ? (
          <Button kind="ink" disabled={found === 0} onClick={() => void fit()}>
            Fit {template.name.toLowerCase()}
          </Button>
        ) : (
          <>
            <progress className="h-1.5 w-40 accent-[var(--verdigris)]" value={progress} aria-label="Fitting" />
            <Button small onClick={() => abort.current?.abort()}>
              Cancel
            </Button>
          </>
        )}
        {bones > 0 && (
          <label className="flex items-center gap-2">
            <input
              type="checkbox"
              className="size-4 accent-[var(--verdigris)]"
              checked={replace}
              onChange={(e) => setReplace(e.target.checked)}
            />
            In place of the {bones} bones that are there
          </label>
        )}
        {misplaced > 0 && (
          <label className="flex items-center gap-2">
            <input
              type="checkbox"
              className="size-4 accent-[var(--verdigris)]"
              checked={reorder}
              onChange={(e) => setReorder(e.target.checked)}
            />
            Paint {misplaced} parts in its order
          </label>
        )}
        <span className="cap ml-auto">
          {found} roles have a part
          {reading.assignment.missing.length > 0 && `; nothing for ${listed(reading.assignment.missing.map(roleLabel))}`}
        </span>
      </footer>
      {createPortal(
        <DragOverlay dropAnimation={null} zIndex={60}>
          {dragged && (
            <span className="flex w-fit items-center gap-2 rounded-lg bg-panel px-2 py-1 shadow-2">
              <Thumb kind="part" id={dragged} size={28} /> {nameOf(dragged)}
            </span>
          )}
        </DragOverlay>,
        document.body,
      )}
    </DndContext>
  )
}

const listed = (names: readonly string[]): string =>
  names.length > 3 ? `${names.slice(0, 3).join(', ')} and ${names.length - 3} more` : names.join(', ')

/** What was placed, and what is left for a person. */
function Result({ result, onClose }: { result: Fitted; onClose: () => void }) {
  const { parts } = openPuppet()
  return (
    <Sheet
      wide
      open
      onClose={onClose}
      title={`${result.bones} bones placed, ${result.bound} parts bound`}
      text="One step of undo takes it all back."
    >
      {result.byHand.length > 0 && (
        <>
          <h3 className="font-semibold">To be placed by hand</h3>
          <ul className="mb-3 divide-y divide-hair">
            {result.byHand.map((b, i) => (
              <li key={i} className="py-1.5">
                <b>{b.what}</b>: {b.why}
              </li>
            ))}
          </ul>
        </>
      )}
      {result.followers.length > 0 && (
        <>
          <h3 className="font-semibold">Not known to the template</h3>
          <ul className="mb-3 divide-y divide-hair">
            {result.followers.map((f) => (
              <li key={f.part} className="flex items-center gap-3 py-1">
                <span className="flex-1">
                  <b>{parts[f.part]?.name}</b> goes with {parts[f.on]?.name}, on which it lies
                </span>
                <Button
                  small
                  onClick={() => {
                    selectParts(f.part)
                    onClose()
                  }}
                >
                  Show
                </Button>
              </li>
            ))}
          </ul>
        </>
      )}
      {result.byHand.length + result.followers.length === 0 && (
        <p className="text-quiet">Every bone found its place, and every part its bone.</p>
      )}
      <Button kind="ink" className="mt-3" onClick={onClose}>
        Look at it
      </Button>
    </Sheet>
  )
}
