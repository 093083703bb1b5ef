/** Splits a flat sheet into views: a cell around each figure, their feet on one spot. */
import { counted } from '@marionette/core/kernel/counted'
import { Plus, X } from 'lucide-react'
import { useEffect, useMemo, useState } from 'react'
import type { Puppet } from '@marionette/core/puppet/schema'
import { wholeSheet } from '@marionette/core/cutting/sheets'
import { assetsOfParts } from '@marionette/core/parts/tree'
import { loadAssets } from '../../editor/assets'
import { openPuppet } from '../../editor/document'
import { openPanel, selectParts, useSession } from '../../editor/session'
import { orSaid, work } from '../../editor/work'
import { Button, IconButton } from '../../ui/Button'
import { Sheet } from '../../ui/Sheet'
import type { SurveyedSheet } from '../../jobs/sheets'
import { CellsEditor } from './CellsEditor'
import { cellProblem, draftCells, nextName, splitWork, VIEW_NAMES, type DraftCell } from './splitting'
import { useEditor, type Editor } from '../../editor/editor'
import { sure } from '@marionette/core/kernel/sure'
import { partOf } from '@marionette/core/parts/lookup'
import { Box } from '../../ui/Box'

/** Pictures of a part as it was before it was split. */
const assetsOfSheet = (puppet: Puppet, part: string): ReadonlySet<string> => assetsOfParts(wholeSheet(puppet, part), [part])

/** The part that is split: the selected one, or all of the puppet. */
const splitSource = (editor: Editor): string => {
  const { selection } = useSession.of(editor).getState()
  const [id] = selection.ids
  const puppet = openPuppet(editor)
  return selection.kind === 'part' && id !== undefined && puppet.parts[id] ? id : puppet.root
}

export default function CellsSheet() {
  const editor = useEditor()
  const [part] = useState(() => splitSource(editor))
  const [survey, setSurvey] = useState<SurveyedSheet | null>(null)
  useEffect(() => {
    const abort = new AbortController()
    void orSaid(editor, async () => {
      const puppet = openPuppet(editor)
      setSurvey(await editor.jobs.survey(puppet, part, await loadAssets(editor, assetsOfSheet(puppet, part)), abort.signal))
    }).then((found) => found === null && !abort.signal.aborted && openPanel(editor, null))
    return () => abort.abort()
  }, [editor, part])
  const { name } = partOf(openPuppet(editor), part)
  return (
    <Sheet
      open
      full
      onClose={() => openPanel(editor, null)}
      title={`Split ${name} into views`}
      text="One box around each figure; the small foot marks the spot on which all of them come to stand. The whole drawing is kept."
    >
      {survey ? <Cells part={part} survey={survey} /> : <p className="py-16 text-center text-quiet">Looking for figures…</p>}
    </Sheet>
  )
}

function Cells({ part, survey }: { part: string; survey: SurveyedSheet }) {
  const editor = useEditor()
  const puppet = openPuppet(editor)
  const { sheet } = partOf(puppet, part)
  const [cells, setCells] = useState<readonly DraftCell[]>(() =>
    sheet && sheet.cells.length > 0
      ? sheet.cells.map((c, key) => ({ key, name: sure(puppet.views.find((v) => v.id === c.view)).name, box: c.box, spot: c.spot }))
      : draftCells(puppet.views, survey.figures),
  )
  const [chosen, setChosen] = useState<number | null>(cells[0]?.key ?? null)
  const [fit, setFit] = useState(survey.region.width > 0.6 * puppet.canvas.width)
  const [paper, setPaper] = useState(true)
  const [busy, setBusy] = useState(false)
  const url = useMemo(() => URL.createObjectURL(new Blob([survey.png as BlobPart], { type: 'image/png' })), [survey])
  useEffect(() => () => URL.revokeObjectURL(url), [url])
  const change = (cell: DraftCell): void => setCells((all) => all.map((c) => (c.key === cell.key ? cell : c)))
  const problem = cellProblem(cells)
  const add = (): void => {
    const { x, y, width, height } = survey.region
    const key = 1 + Math.max(-1, ...cells.map((c) => c.key))
    const name = nextName(
      puppet.views,
      cells.map((c) => c.name),
    )
    const box = { x: x + width * 0.4, y: y + height * 0.2, width: width * 0.2, height: height * 0.6 }
    setCells([...cells, { key, name, box, spot: { x: box.x + box.width / 2, y: box.y + box.height } }])
    setChosen(key)
  }
  const split = async (): Promise<void> => {
    setBusy(true)
    const isDone = await work(
      editor,
      'Split into views',
      (now) => assetsOfSheet(now, part),
      (now, assets) => editor.jobs.splitInViews(splitWork(now, part, cells, { fit, paper }), assets),
    )
    setBusy(false)
    if (!isDone) return
    selectParts(editor, part)
    openPanel(editor, null)
  }
  return (
    <div className="flex gap-5">
      <div className="min-w-0 flex-1">
        <CellsEditor url={url} region={survey.region} cells={cells} chosen={chosen} onChoose={setChosen} onChange={change} />
      </div>
      <div className="flex w-[236px] shrink-0 flex-col">
        <h3 className="cap mb-1">Cells</h3>
        <ul>
          {cells.map((c) => (
            <li key={c.key} className={`flex items-center gap-1 rounded-lg pl-1 ${c.key === chosen ? 'bg-tint' : ''}`}>
              <input
                aria-label="View of the cell"
                list="view-names"
                value={c.name}
                onFocus={() => setChosen(c.key)}
                onChange={(e) => change({ ...c, name: e.target.value })}
                className="h-8 min-w-0 flex-1 bg-transparent px-1.5 outline-none"
              />
              <IconButton label={`Remove the cell ${c.name}`} onClick={() => setCells(cells.filter((o) => o.key !== c.key))}>
                <X size={14} />
              </IconButton>
            </li>
          ))}
        </ul>
        <datalist id="view-names">
          {[...new Set([...puppet.views.map((v) => v.name), ...VIEW_NAMES])].map((n) => (
            <option key={n} value={n} />
          ))}
        </datalist>
        <Button small className="mt-1.5 self-start" onClick={add}>
          <Plus size={13} /> Add a cell
        </Button>
        <label className="mt-4 flex items-center gap-2 leading-7">
          <Box checked={fit} onChange={(on) => setFit(on)} />
          Canvas fits one figure
        </label>
        <label className="flex items-center gap-2 leading-7">
          <Box checked={paper} onChange={(on) => setPaper(on)} />
          Remove the paper
        </label>
        <p className="mt-3 min-h-10 text-xs text-quiet" role="status">
          {problem ?? `${counted(cells.length, 'view')}. Parts cut in one are offered in the others.`}
        </p>
        <div className="mt-auto flex justify-end gap-2 pt-4">
          <Button onClick={() => openPanel(editor, null)}>Cancel</Button>
          <Button kind="ink" disabled={problem !== null || busy} onClick={() => void split()}>
            {busy ? 'Splitting…' : 'Split'}
          </Button>
        </div>
      </div>
    </div>
  )
}
