/** Pins and stiff bars in the interface. */
import { Pin as PinIcon } from 'lucide-react'
import type { Pin, Pins } from '@marionette/core/deformers/records'
import { freshId } from '@marionette/core/kernel/ids'
import type { Vec } from '@marionette/core/kernel/numbers'
import { Field } from '../../panels/Group'
import { currentTheme } from '../../stage/theme'
import { NumberField } from '../../ui/NumberField'
import { Segments } from '../../ui/Segments'
import { fitting, tenth, type ChangeDeformer, type DeformerView } from './view'
import { nth } from '@marionette/core/kernel/sure'

const HOLDS = [
  { value: 'turns', label: 'Turns it' },
  { value: 'moves', label: 'Only moves it' },
] as const

const BARS = [
  { value: 'free', label: 'Moved by others' },
  { value: 'held', label: 'Held' },
] as const

interface PinFieldsProps {
  readonly deformer: Pins
  readonly at: number
  /** Whether the part is a picture: triangles of drawings have no order. */
  readonly isPicture: boolean
  readonly onChange: ChangeDeformer
}

function PinFields({ deformer, at, isPicture, onChange }: PinFieldsProps) {
  const pin = deformer.pins[at]
  if (!pin) return null
  const set = (more: Partial<Pin>): void =>
    onChange({ ...deformer, pins: deformer.pins.map((p) => (p.id === pin.id ? { ...p, ...more } : p)) }, `Change ${pin.kind}`)
  return (
    <>
      <Field label={pin.kind === 'pin' ? 'Around it' : 'It is'}>
        {pin.kind === 'pin' ? (
          <Segments
            label="What a pin does around it"
            value={pin.turns ? 'turns' : 'moves'}
            options={HOLDS}
            onChange={(v) => set({ turns: v === 'turns' })}
          />
        ) : (
          <Segments
            label="What holds a stiff bar"
            value={pin.held ? 'held' : 'free'}
            options={BARS}
            onChange={(v) => set({ held: v === 'held' })}
          />
        )}
      </Field>
      <NumberField label="Radius" value={pin.radius} unit="px" rest={0} min={0} onChange={(v) => v !== null && set({ radius: v })} />
      {isPicture && <NumberField label="Depth" value={pin.depth} rest={0} digits={1} onChange={(v) => v !== null && set({ depth: v })} />}
    </>
  )
}

/** A stiff bar lies about its middle as it was put in. */
function drawBar(pen: CanvasRenderingContext2D, middle: Vec, at: Vec, end: Vec, zoom: number, colour: string, halo: string): void {
  const [dx, dy] = [((end.x - at.x) / 2) * zoom, ((end.y - at.y) / 2) * zoom]
  for (const [style, width] of [
    [halo, 8],
    [colour, 4.5],
  ] as const) {
    pen.beginPath()
    pen.lineCap = 'round'
    pen.moveTo(middle.x - dx, middle.y - dy)
    pen.lineTo(middle.x + dx, middle.y + dy)
    pen.strokeStyle = style
    pen.lineWidth = width
    pen.stroke()
  }
  pen.lineCap = 'butt'
}

export const pinsView: DeformerView<Pins> = {
  label: 'Pins',
  icon: PinIcon,
  action: 'Put pins in the part',
  aroundSeveral: false,
  next: 'Click on the part to put pins in; Alt-drag puts a stiff bar in.',
  handles: 'round',
  turns: true,
  hasBars: true,
  make: async ({ puppet, part, id, name }) => (await fitting()).pinMesh(puppet, part, id, name),
  HandleFields: PinFields,
  draw(editor, pen, { zoom }, { pins }, spots) {
    const { verdigris, halo } = currentTheme(editor)
    pins.forEach((pin, k) => pin.end && drawBar(pen, nth(spots, k), pin.at, pin.end, zoom, verdigris, halo))
  },
  addHandle(d, made, end) {
    const handle = `${d.id}.${freshId('pin').slice(4, 12)}`
    const common = { id: handle, at: tenth(made.at), turns: true, radius: 0, depth: 0 }
    const pin: Pin = end
      ? { ...common, kind: 'splint', end: tenth(end.at), held: false }
      : { ...common, kind: 'pin', end: null, held: true }
    return { deformer: { ...d, pins: [...d.pins, pin] }, handle, label: end ? 'Put in a stiff bar' : 'Put in a pin' }
  },
  removeHandle: (d, handle) => ({ deformer: { ...d, pins: d.pins.filter((p) => p.id !== handle) }, label: 'Take a pin out' }),
}
