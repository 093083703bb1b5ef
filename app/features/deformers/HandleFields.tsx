/** The chosen handle of a deformer in numbers: where it is posed to, and what kind of pin it is. */
import { channelOf } from '@marionette/core/puppet/channels'
import { handleName, handlesOf, type Deformer } from '@marionette/core/puppet/schema'
import { useDeform } from './worked'
import { usePuppet } from '../../editor/document'
import { ChannelField } from '../../panels/ChannelField'
import { channelAddress } from '@marionette/core/kernel/channel'
import { viewOf } from './table'
import { sure } from '@marionette/core/kernel/sure'

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
      : (Object.keys(FIELDS) as (keyof typeof FIELDS)[]).filter((f) => channelOf(p, channelAddress('handle', sure(handle), f))).join(' '),
  )
  if (at < 0 || handle === null) return null
  const view = viewOf(deformer)
  const names = (fields ?? '').split(' ').filter(Boolean) as (keyof typeof FIELDS)[]
  return (
    <div className="mt-2 border-t border-hair pt-2">
      <h4 className="mb-1 truncate text-xs font-semibold">{handleName(deformer, at)}</h4>
      {view.HandleFields && <view.HandleFields deformer={deformer} at={at} isPicture={isPicture} onChange={onChange} />}
      {names.map((field) => (
        <ChannelField key={field} address={channelAddress('handle', handle, field)} label={view.fields?.[field] ?? FIELDS[field]} />
      ))}
    </div>
  )
}
