/** The chosen handle of a deformer in numbers: where it is posed to, and what kind of pin it is. */
import { channelAddress, channelOf } from '@marionette/core/document/channels'
import { handleName, handlesOf, type Deformer, type DeformerOf, type Pin } from '@marionette/core/document/schema'
import { useDeform } from '../state/deform'
import { usePuppet } from '../state/document'
import { NumberField } from '../ui/NumberField'
import { Segments } from '../ui/Segments'
import { ChannelField } from './ChannelField'
import { Field } from './Group'

const FIELDS = { x: 'Moved x', y: 'Moved y', angle: 'Turned', scale: 'Scale' } as const

interface HandleFieldsProps {
  /** Whether the part is a picture: triangles of drawings have no order. */
  readonly isPicture: boolean
  readonly deformer: Deformer
  readonly onChange: (deformer: Deformer, label?: string) => void
}

export function HandleFields({ deformer, isPicture, onChange }: HandleFieldsProps) {
  const handle = useDeform((s) => s.handle)
  const at = handle === null ? -1 : handlesOf(deformer).indexOf(handle)
  // A channel that means nothing to this handle is not there.
  const fields = usePuppet((p) =>
    at < 0
      ? ''
      : (Object.keys(FIELDS) as (keyof typeof FIELDS)[]).filter((f) => channelOf(p, channelAddress('handle', handle!, f))).join(' '),
  )
  if (at < 0 || handle === null) return null
  const names = (fields ?? '').split(' ').filter(Boolean) as (keyof typeof FIELDS)[]
  return (
    <div className="mt-2 border-t border-hair pt-2">
      <h4 className="mb-1 truncate text-xs font-semibold">{handleName(deformer, at)}</h4>
      {deformer.kind === 'pins' && <PinFields deformer={deformer} pin={deformer.pins[at]!} isPicture={isPicture} onChange={onChange} />}
      {names.map((field) => (
        <ChannelField
          key={field}
          address={channelAddress('handle', handle, field)}
          label={field === 'scale' && deformer.kind === 'bend' ? 'Thickness' : FIELDS[field]}
        />
      ))}
    </div>
  )
}

const HOLDS = [
  { value: 'turns', label: 'Turns it' },
  { value: 'moves', label: 'Only moves it' },
] as const

const BARS = [
  { value: 'free', label: 'Moved by others' },
  { value: 'held', label: 'Held' },
] as const

function PinFields({ deformer, pin, isPicture, onChange }: HandleFieldsProps & { deformer: DeformerOf<'pins'>; pin: Pin }) {
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
            label="What holds a splint"
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
