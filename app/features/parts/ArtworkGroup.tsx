/** The artwork as a whole: where it came from, its template, its names, and what is heavy in it. */
import { useMemo } from 'react'
import { heavyGroups } from '@marionette/core/reports/heavy'
import { checkNaming } from '@marionette/core/roles/naming'
import { sourceFiles } from '@marionette/core/update/match'
import { openPuppet, usePuppet, useRestOf } from '../../editor/document'
import { openPanel, selectParts } from '../../editor/session'
import { Button } from '../../ui/Button'
import { NAMINGS } from '../../panels/namings'
import { Field, Group } from '../../panels/Group'
import { useEditor } from '../../editor/editor'
import { sure } from '@marionette/core/kernel/sure'

export function ArtworkGroup() {
  const editor = useEditor()
  const puppet = useRestOf()
  const naming = usePuppet((p) => p.naming)
  const files = useMemo(() => sourceFiles(puppet), [puppet])
  const heavy = useMemo(() => heavyGroups(puppet), [puppet])
  const problems = useMemo(() => checkNaming({ ...openPuppet(editor), parts: puppet.parts, naming }).length, [editor, puppet.parts, naming])
  if (Object.keys(puppet.parts).length === 1) return null
  return (
    <Group id="artwork" title="Artwork">
      {files.length > 0 && (
        <Field label="From">
          <span className="block truncate" title={files.join(', ')}>
            {files.length === 1 ? files[0] : `${files.length} files`}
          </span>
        </Field>
      )}
      <Field label="Sides">
        <button type="button" className="block w-full truncate text-left hover:underline" onClick={() => openPanel(editor, 'names')}>
          {sure(NAMINGS.find((n) => n.value === naming)).label}
          {problems > 0 && <span className="ml-2 rounded-full bg-brass-soft px-1.5 text-[11px]">{problems}</span>}
        </button>
      </Field>
      <div className="mt-1 flex flex-wrap gap-2">
        <Button small onClick={() => openPanel(editor, 'fit')}>
          Fit a template
        </Button>
        {files.length > 0 && (
          <Button small onClick={() => openPanel(editor, 'update')}>
            New version
          </Button>
        )}
      </div>
      {heavy.length > 0 && (
        <div className="mt-2">
          <p className="cap">Heavy groups, lighter when merged</p>
          {heavy.slice(0, 5).map((g) => (
            <button
              key={g.part}
              type="button"
              className="flex w-full gap-2 text-left leading-6 hover:underline"
              onClick={() => selectParts(editor, g.part)}
            >
              <span className="min-w-0 flex-1 truncate">{g.name}</span>
              <span className="num text-quiet">{g.layers} layers</span>
            </button>
          ))}
        </div>
      )}
    </Group>
  )
}
