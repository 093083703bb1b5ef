/** The naming convention of the open puppet: shown, checked, and converted in one step. */
import { useState } from 'react'
import { setNaming } from '@marionette/core/puppet/puppetCommands'
import { checkNaming, convertName } from '@marionette/core/roles/naming'
import { wordsOf, type Facing } from '@marionette/core/roles/words'
import { perform, useDocument, useRestOf } from '../../editor/document'
import { openPanel, selectParts, useSession } from '../../editor/session'
import { Button } from '../../ui/Button'
import { Segments } from '../../ui/Segments'
import { Sheet } from '../../ui/Sheet'
import { NAMINGS } from '../../panels/namings'
import { edit } from '@marionette/core/kernel/command'
import type { Naming } from '@marionette/core/roles/records'
import { convertNaming } from '@marionette/core/roles/commands'
import { useEditor } from '../../editor/editor'
import { sure } from '@marionette/core/kernel/sure'

export default function NamesSheet() {
  const open = useSession((s) => s.panel === 'names')
  const isOpen = useDocument((s) => s.puppet !== null)
  if (!open || !isOpen) return null
  return <Names />
}

function Names() {
  const editor = useEditor()
  const puppet = useRestOf()
  const naming = useDocument((s) => sure(s.puppet).naming)
  const [to, setTo] = useState<Naming>(naming)
  const [facing, setFacing] = useState<Facing>('left')
  const problems = checkNaming({ ...puppet, naming })
  const sided = [...Object.values(puppet.parts), ...Object.values(puppet.bones)].filter((p) => wordsOf(p.name).side)
  const changed = sided.map((p) => ({ name: p.name, next: convertName(p.name, naming, to, facing) })).filter((c) => c.name !== c.next)
  const needsFacing = to !== naming && (to === 'near-far' || naming === 'near-far')
  return (
    <Sheet
      wide
      open
      onClose={() => openPanel(editor, null)}
      title="Whose left and right"
      text="Names of parts and bones follow one convention throughout the puppet."
    >
      <Segments label="Convention" value={to} options={NAMINGS} onChange={setTo} />
      {needsFacing && (
        <div className="mt-3 flex items-center gap-3">
          <span className="text-quiet">The character looks to the viewer’s</span>
          <Segments
            label="Where it looks"
            value={facing}
            options={[
              { value: 'left', label: 'Left' },
              { value: 'right', label: 'Right' },
            ]}
            onChange={setFacing}
          />
        </div>
      )}
      {to !== naming && (
        <section className="mt-4">
          <p className="text-quiet">{changed.length === 0 ? 'No name would change.' : `${changed.length} names would change:`}</p>
          <ul className="scroll-thin max-h-48 overflow-y-auto">
            {changed.slice(0, 200).map((c, i) => (
              <li key={i} className="flex gap-2 leading-6">
                <span className="w-1/2 truncate text-quiet">{c.name}</span>
                <span className="flex-1 truncate">{c.next}</span>
              </li>
            ))}
          </ul>
          <div className="mt-3 flex gap-2">
            <Button kind="ink" onClick={() => perform(editor, [edit(convertNaming, { to, facing })]) && openPanel(editor, null)}>
              Convert all names
            </Button>
            <Button onClick={() => perform(editor, [edit(setNaming, { naming: to })]) && openPanel(editor, null)}>
              The names mean this already
            </Button>
          </div>
        </section>
      )}
      <section className="mt-4">
        <h3 className="font-semibold">{problems.length === 0 ? 'All names fit' : `${problems.length} names do not fit`}</h3>
        {problems.length === 0 && <p className="text-quiet">{sided.length} names say a side.</p>}
        <ul className="scroll-thin max-h-40 overflow-y-auto">
          {problems.map((p, i) => (
            <li key={i} className="flex items-center gap-3 py-1">
              <span className="min-w-0 flex-1">
                <b>{p.name}</b> {p.message}
              </span>
              <Button
                small
                onClick={() => {
                  selectParts(editor, p.part)
                  openPanel(editor, null)
                }}
              >
                Show
              </Button>
            </li>
          ))}
        </ul>
      </section>
    </Sheet>
  )
}
