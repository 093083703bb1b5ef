/** Fitting a template: which part plays which role, what is missing on either side, and the skeleton in one press. */
import { listedUpTo } from '@marionette/core/kernel/counted'
import { DndContext, DragOverlay, PointerSensor, pointerWithin, useSensor, useSensors, type DragEndEvent } from '@dnd-kit/core'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useMemo, useRef, useState } from 'react'
import { createPortal } from 'react-dom'
import { freshId } from '@marionette/core/kernel/ids'
import type { Puppet } from '@marionette/core/puppet/schema'
import { roleLabel } from '@marionette/core/roles/roles'
import { TEMPLATES } from '@marionette/core/templates/builtin'
import { outOfOrder } from '@marionette/core/templates/order'
import { templateOf } from '@marionette/core/templates/saved'
import type { Template } from '@marionette/core/templates/template'
import { listTemplates, removeTemplate, saveTemplate } from '../../storage/api'
import { openPuppet, perform, useDocument } from '../../editor/document'
import { openPanel, selectParts } from '../../editor/session'
import { orSaid } from '../../editor/work'
import { Thumb } from '../../pictures/Thumb'
import { Button } from '../../ui/Button'
import { Sheet } from '../../ui/Sheet'
import { Tick } from '../../ui/Tick'
import { editsOf } from '../../jobs/edits'
import type { Fitted, FitWork } from '../../jobs/fitting'
import { Figure } from './Figure'
import { bestTemplate, givenTo, readRoles, sharedWith, type Given, type Reading } from './fitting'
import { PartRoles } from './PartRoles'
import { TemplateList } from './TemplateList'
import { useEditor } from '../../editor/editor'
import { nth, sure } from '@marionette/core/kernel/sure'

export default function FitSheet() {
  const editor = useEditor()
  const [result, setResult] = useState<Fitted | null>(null)
  const close = (): void => openPanel(editor, null)
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

/** Templates that can be fitted, the built-in ones first; kept skeletons come and go. */
function useTemplates(puppet: Puppet) {
  const editor = useEditor()
  const queries = useQueryClient()
  const saved = useQuery({ queryKey: ['templates'], queryFn: listTemplates })
  const templates = useMemo(() => [...TEMPLATES, ...(saved.data ?? [])], [saved.data])
  const again = (): Promise<void> => queries.invalidateQueries({ queryKey: ['templates'] })
  /** Keeps the puppet's skeleton as a template; null where it could not be. */
  const keep = (): Promise<Template | null> =>
    orSaid(editor, async () => {
      const made: Template = templateOf(puppet, freshId('template'), `${puppet.name}’s skeleton`)
      await saveTemplate(made)
      await again()
      editor.notify.success(`${made.name} is kept as a template.`)
      return made
    })
  const remove = async (id: string): Promise<void> => {
    await orSaid(editor, () => removeTemplate(id))
    await again()
  }
  return { templates, keep, remove }
}

/** Fitting as it goes on: how far it is, null where it is not. */
function useFitting(onDone: (result: Fitted) => void) {
  const editor = useEditor()
  const [progress, setProgress] = useState<number | null>(null)
  const abort = useRef<AbortController | null>(null)
  const fit = async (work: FitWork): Promise<void> => {
    const { signal } = (abort.current = new AbortController())
    setProgress(0)
    const fitted = await orSaid(editor, () => editor.jobs.fit(work, setProgress, signal))
    setProgress(null)
    if (fitted && perform(editor, editsOf(fitted.edits), `Fit ${work.template.name}`)) onDone(fitted)
  }
  return { progress, fit, cancel: () => abort.current?.abort() }
}

/** What fitting does besides, its beginning and its progress. */
function Footer({
  puppet,
  template,
  reading,
  onDone,
}: {
  puppet: Puppet
  template: Template
  reading: Reading
  onDone: (result: Fitted) => void
}) {
  const [replace, setReplace] = useState(true)
  const [reorder, setReorder] = useState(false)
  const { progress, fit, cancel } = useFitting(onDone)
  const { roles, missing } = reading.assignment
  const bones = Object.keys(puppet.bones).length
  const misplaced = useMemo(
    () => outOfOrder(puppet, template, Object.fromEntries([...roles].map(([key, { part }]) => [part, key]))),
    [puppet, template, roles],
  )
  return (
    <footer className="mt-4 flex items-center gap-4 border-t border-hair pt-4">
      {progress === null ? (
        <Button kind="ink" disabled={roles.size === 0} onClick={() => void fit({ puppet, template, roles, replace, reorder })}>
          Fit {template.name.toLowerCase()}
        </Button>
      ) : (
        <>
          <progress className="h-1.5 w-40" value={progress} aria-label="Fitting" />
          <Button small onClick={cancel}>
            Cancel
          </Button>
        </>
      )}
      {bones > 0 && (
        <Tick checked={replace} onChange={setReplace}>
          In place of the {bones} bones that are there
        </Tick>
      )}
      {misplaced > 0 && (
        <Tick checked={reorder} onChange={setReorder}>
          Paint {misplaced} parts in its order
        </Tick>
      )}
      <span className="cap ml-auto">
        {roles.size} roles have a part
        {missing.length > 0 && `; nothing for ${listed(missing.map(roleLabel))}`}
      </span>
    </footer>
  )
}

function Choosing({ onDone }: { onDone: (result: Fitted) => void }) {
  const editor = useEditor()
  const puppet = useDocument((s) => sure(s.puppet))
  const { templates, keep, remove } = useTemplates(puppet)
  const [id, setId] = useState(() => bestTemplate(openPuppet(editor), TEMPLATES).id)
  const template = templates.find((t) => t.id === id) ?? nth(TEMPLATES, 0)
  const [given, setGiven] = useState<Given>(new Map())
  const [role, setRole] = useState<string | null>(null)
  const reading = useMemo(() => readRoles(puppet, template, given), [puppet, template, given])
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 4 } }))
  const give = (part: string, to: string | null): void => setGiven(givenTo(puppet, given, reading, part, to))
  const [dragged, setDragged] = useState<string | null>(null)
  const drop = ({ active, over }: DragEndEvent): void => {
    setDragged(null)
    const on = String(over?.id ?? '')
    if (on.startsWith('role ')) give(String(active.id), on.slice(5))
  }
  const nameOf = (part: string): string => puppet.parts[part]?.name ?? ''
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
          <TemplateList
            puppet={puppet}
            templates={templates}
            chosen={template.id}
            onChoose={setId}
            onRemove={(gone) => void remove(gone)}
          />
          {Object.keys(puppet.bones).length > 0 && (
            <Button small className="mt-3 self-start" onClick={() => void keep().then((made) => made && setId(made.id))}>
              Keep this skeleton as a template
            </Button>
          )}
        </div>
        <Figure template={template} reading={reading} nameOf={nameOf} chosen={role} onChoose={(r) => setRole(r === role ? null : r)} />
        <PartRoles
          puppet={puppet}
          reading={reading}
          given={given}
          wanted={role}
          onGive={give}
          onShare={(part, to) => setGiven(sharedWith(given, reading, part, to))}
        />
      </div>
      <Footer puppet={puppet} template={template} reading={reading} onDone={onDone} />
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

const listed = (names: readonly string[]): string => listedUpTo(names, 3)

/** What was placed, and what is left for a person. */
function Result({ result, onClose }: { result: Fitted; onClose: () => void }) {
  const editor = useEditor()
  const { parts } = openPuppet(editor)
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
                    selectParts(editor, f.part)
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
