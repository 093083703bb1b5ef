/** Colours of ink and line, the palette, and the kind of a shape's paint. */
import { Droplet, Minus, PaintBucket, Pipette } from 'lucide-react'
import { changeShape, inked, isGradient, paintAs } from '@marionette/core/artwork/touch/paints'
import { useDocument, usePuppet } from '../../editor/document'
import { currentInk, useTouch, type PaintMode } from './settings'
import { ColourField } from '../../ui/ColourField'
import { IconButton } from '../../ui/Button'
import { Segments } from '../../ui/Segments'
import { SmallNumber } from '../../ui/SmallNumber'
import { changeRest, selectedDrawing } from './target'
import { useEditor } from '../../editor/editor'

const MODES: readonly { readonly mode: PaintMode; readonly label: string; readonly icon: typeof Droplet }[] = [
  { mode: 'ink', label: 'Paint fills', icon: PaintBucket },
  { mode: 'line', label: 'Paint lines', icon: Minus },
  { mode: 'pick', label: 'Take a colour from the stage', icon: Pipette },
  { mode: 'gradient', label: 'Gradients', icon: Droplet },
]

export function PaintSettings({ tool }: { tool: string }) {
  const editor = useEditor()
  const mode = useTouch((s) => s.paintMode)
  const isPaint = tool === 'paint'
  return (
    <>
      {isPaint &&
        MODES.map(({ mode: one, label, icon: Icon }) => (
          <IconButton
            key={one}
            label={label}
            aria-pressed={mode === one}
            className={mode === one ? 'bg-ink text-panel! hover:bg-ink hover:text-panel' : ''}
            onClick={() => useTouch.of(editor).setState({ paintMode: one })}
          >
            <Icon size={16} />
          </IconButton>
        ))}
      {isPaint && mode === 'gradient' ? <GradientSettings /> : <Colours />}
    </>
  )
}

function Colours() {
  const editor = useEditor()
  const { line, width } = useTouch()
  const { ink } = currentInk(
    usePuppet((p) => p.palette),
    useTouch(),
  )
  return (
    <>
      <span className="pl-1 text-xs text-quiet">Ink</span>
      <ColourField label="Fill" value={ink} onChange={(v) => useTouch.of(editor).setState({ ink: v, swatch: null })} />
      <Swatches />
      <span className="pl-1 text-xs text-quiet">Line</span>
      <ColourField label="Line" value={line} onChange={(v) => useTouch.of(editor).setState({ line: v })} />
      <SmallNumber label="Width" max={200} value={width} onChange={(v) => useTouch.of(editor).setState({ width: v })} />
    </>
  )
}

/** The first swatches of the palette; all of them are in the details. */
const SHOWN = 6

function Swatches() {
  const editor = useEditor()
  const palette = usePuppet((p) => p.palette)
  const swatch = useTouch((s) => s.swatch)
  if (palette.length === 0) return null
  return (
    <div role="group" aria-label="Palette" className="flex gap-1">
      {palette.slice(0, SHOWN).map((s) => (
        <button
          key={s.id}
          type="button"
          aria-label={`Fill ${s.name}`}
          aria-pressed={swatch === s.id}
          title={s.name}
          onClick={() => useTouch.of(editor).setState({ ink: s.colour, swatch: s.id })}
          className={`size-5 rounded-full shadow-[inset_0_0_0_1px_var(--twine)] ${swatch === s.id ? 'outline-2 outline-offset-1 outline-cord' : ''}`}
          style={{ background: s.colour }}
        />
      ))}
    </div>
  )
}

const KINDS = [
  { value: 'flat', label: 'Flat' },
  { value: 'linear', label: 'Along a line' },
  { value: 'radial', label: 'Round' },
] as const

function GradientSettings() {
  const editor = useEditor()
  const id = useTouch((s) => s.shape)
  useDocument((s) => s.puppet)
  const shape = selectedDrawing(editor)?.drawing.shapes.find((s) => s.id === id)
  const paint = shape?.ink?.paint
  if (!shape || !paint) return <span className="px-2 text-xs text-quiet">Press on a shape to set its gradient.</span>
  if (paint.kind !== 'flat' && !isGradient(paint))
    return <span className="px-2 text-xs text-quiet">This shape is painted with a pattern or a picture.</span>
  const setStop = (at: number, colour: string | null): void => {
    if (colour === null || !isGradient(paint)) return
    const stops = paint.stops.map((s, i) => (i === at ? { ...s, colour } : s))
    changeRest(editor, 'Change gradient', (d) => changeShape(d, shape.id, (s) => inked(s, { ...paint, stops })))
  }
  return (
    <>
      <Segments
        label="Kind of paint"
        value={paint.kind}
        options={KINDS}
        onChange={(kind) => changeRest(editor, 'Change paint', (d) => changeShape(d, shape.id, (s) => inked(s, paintAs(s, kind))))}
      />
      {isGradient(paint) &&
        paint.stops
          .slice(0, 4)
          .map((s, i) => <ColourField key={i} label={`Colour ${i + 1}`} value={s.colour} onChange={(c) => setStop(i, c)} hideValue />)}
    </>
  )
}
