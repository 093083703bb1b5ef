/** Several files were dropped: asks whether they are one puppet or several. */
import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { stemOf } from '@marionette/formats/fileNames'
import { Button } from '../../ui/Button'
import { Sheet } from '../../ui/Sheet'
import { importAs, importFiles, useImport } from './importing'
import { useEditor } from '../../editor/editor'
import { nth } from '@marionette/core/kernel/sure'

export default function TogetherSheet() {
  const question = useImport((s) => s.question)
  if (!question) return null
  return <Question key={nth(question.files, 0).name} files={question.files} folder={question.folder} />
}

function Question({ files, folder }: { files: readonly File[]; folder: string | null }) {
  const editor = useEditor()
  const queries = useQueryClient()
  const [name, setName] = useState(folder ?? commonStart(files.map((f) => stemOf(f.name))))
  const close = (): void => useImport.of(editor).setState({ question: null })
  const done = async (count: number): Promise<void> => {
    await queries.invalidateQueries({ queryKey: ['puppets'] })
    if (count > 0) editor.notify.success(count === 1 ? `${name} is in the library.` : `${count} puppets are in the library.`)
  }
  const asOne = async (): Promise<void> => {
    close()
    await done((await importAs(editor, files, name.trim() || 'Untitled')) ? 1 : 0)
  }
  const asSeveral = async (): Promise<void> => {
    close()
    await done((await importFiles(editor, files)).length)
  }
  return (
    <Sheet open onClose={close} title={`${files.length} files`} text="Do they belong to one puppet, or is each a puppet of its own?">
      <ul className="scroll-thin max-h-40 overflow-y-auto rounded-lg bg-tint px-3 py-2">
        {files.map((f) => (
          <li key={f.name} className="truncate leading-6">
            {f.name}
          </li>
        ))}
      </ul>
      <label className="mt-4 flex items-center gap-3">
        <span className="text-quiet">Name of the one puppet</span>
        <input
          className="min-w-0 flex-1 border-b border-hair bg-transparent py-0.5 outline-none focus:border-ink"
          value={name}
          maxLength={200}
          onChange={(e) => setName(e.target.value)}
        />
      </label>
      <p className="cap mt-2">Pictures become its layers, the first name at the bottom; every other file becomes a group.</p>
      <div className="mt-4 flex gap-2">
        <Button kind="ink" onClick={() => void asOne()}>
          One puppet
        </Button>
        <Button onClick={() => void asSeveral()}>{files.length} puppets</Button>
      </div>
    </Sheet>
  )
}

/** What all names begin with, cut at the end of a word. */
function commonStart(names: readonly string[]): string {
  const first = names[0] ?? ''
  let length = first.length
  for (const name of names) while (!name.startsWith(first.slice(0, length))) length--
  return first.slice(0, length).replace(/[\s\d_.-]+$/, '') || 'Untitled'
}
