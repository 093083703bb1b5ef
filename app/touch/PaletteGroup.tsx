/** The palette: colours that everything painted with them follows. */
import { Trash2 } from 'lucide-react'
import { freshId } from '@marionette/core/document/ids'
import { edit } from '@marionette/core/edit/command'
import { addSwatch, deleteSwatch, linkColours, setSwatch } from '@marionette/core/edit/palette'
import { Group } from '../details/Group'
import { openPuppet, perform, usePuppet } from '../state/document'
import { useSession } from '../state/session'
import { currentInk, useTouch } from '../state/touch'
import { Button, IconButton } from '../ui/Button'
import { ColourField } from '../ui/ColourField'
import { NameInput } from '../ui/NameInput'
import { selectedDrawing } from './target'

/** Swatches that one press makes, at most. */
const MOST = 24

/** Flat colours of the selected drawing, or of all drawings, that follow no swatch yet. */
function linkSelected(): void {
  const puppet = openPuppet()
  const found = selectedDrawing()
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
  if (free.size > 0) perform([edit(linkColours, { drawings: drawings.map((d) => d.id), swatches })])
}

export function PaletteGroup() {
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
              onChange={(colour) => colour !== null && perform([edit(setSwatch, { ...s, colour })])}
              hideValue
            />
            <NameInput label="Name of the swatch" name={s.name} onRename={(name) => perform([edit(setSwatch, { ...s, name })])} />
            <IconButton label={`Delete swatch ${s.name}`} onClick={() => perform([edit(deleteSwatch, { swatch: s.id })])}>
              <Trash2 size={14} />
            </IconButton>
          </li>
        ))}
      </ul>
      <div className="mt-1 flex flex-wrap gap-2">
        <Button
          small
          disabled={ink === null}
          onClick={() => ink !== null && perform([edit(addSwatch, { id: freshId('swatch'), name: ink, colour: ink })])}
        >
          Add the ink
        </Button>
        <Button small onClick={linkSelected}>
          Take colours in
        </Button>
      </div>
    </Group>
  )
}
