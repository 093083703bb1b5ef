/** The palette: colours that everything painted with them follows. */
import { Trash2 } from 'lucide-react'
import { freshId } from '@marionette/core/kernel/ids'
import { addSwatch, deleteSwatch, linkColours, setSwatch } from '@marionette/core/artwork/palette'
import { Group } from '../../panels/Group'
import { openPuppet, perform, usePuppet } from '../../editor/document'
import { useSession } from '../../editor/session'
import { currentInk, useTouch } from './settings'
import { Button, IconButton } from '../../ui/Button'
import { ColourField } from '../../ui/ColourField'
import { NameInput } from '../../ui/NameInput'
import { selectedDrawing } from './target'
import { edit } from '@marionette/core/kernel/command'
import { useEditor, type Editor } from '../../editor/editor'

/** Swatches that one press makes, at most. */
const MOST = 24

/** Flat colours of the selected drawing, or of all drawings, that follow no swatch yet. */
function linkSelected(editor: Editor): void {
  const puppet = openPuppet(editor)
  const found = selectedDrawing(editor)
  const drawings = found ? [found.drawing] : Object.values(puppet.drawings)
  const known = new Set(puppet.palette.map((s) => s.colour))
  const free = new Set(
    drawings.flatMap((d) =>
      d.shapes.flatMap(({ ink, line }) =>
        [ink?.paint, line?.paint].flatMap((p) => (p?.kind === 'flat' && p.swatch === undefined ? [p.colour] : [])),
      ),
    ),
  )
  const swatches = [...free]
    .filter((c) => !known.has(c))
    .slice(0, MOST)
    .map((colour) => ({ id: freshId('swatch'), name: colour, colour }))
  if (free.size > 0) perform(editor, [edit(linkColours, { drawings: drawings.map((d) => d.id), swatches })])
}

export function PaletteGroup() {
  const editor = useEditor()
  const bench = useSession((s) => s.bench)
  const palette = usePuppet((p) => p.palette)
  const { ink } = currentInk(palette, useTouch())
  if (bench !== 'shape') return null
  return (
    <Group id="palette" title="Palette" aside={<span className="num text-xs text-quiet">{palette.length}</span>}>
      <ul>
        {palette.map((s) => (
          <li key={s.id} className="flex h-8 items-center gap-1">
            <ColourField
              label={s.name}
              value={s.colour}
              onChange={(colour) => colour !== null && perform(editor, [edit(setSwatch, { ...s, colour })])}
              hideValue
            />
            <NameInput label="Name of the swatch" name={s.name} onRename={(name) => perform(editor, [edit(setSwatch, { ...s, name })])} />
            <IconButton label={`Delete swatch ${s.name}`} onClick={() => perform(editor, [edit(deleteSwatch, { swatch: s.id })])}>
              <Trash2 size={14} />
            </IconButton>
          </li>
        ))}
      </ul>
      <div className="mt-1 flex flex-wrap gap-2">
        <Button
          small
          disabled={ink === null}
          onClick={() => ink !== null && perform(editor, [edit(addSwatch, { id: freshId('swatch'), name: ink, colour: ink })])}
        >
          Add the ink
        </Button>
        <Button small onClick={() => linkSelected(editor)}>
          Take colours in
        </Button>
      </div>
    </Group>
  )
}
