/** A number field for one channel, as it is seen: with what controls and responses add. */
import { channelOf } from '@marionette/core/document/channels'
import { beginGesture, cancelGesture, commitGesture, openPuppet, perform, updateGesture, useDocument, usePuppet } from '../state/document'
import { seenAt, valueSeen } from '../state/own'
import { NumberField } from '../ui/NumberField'

export function ChannelField({ address, label }: { address: string; label?: string }) {
  const channel = usePuppet((p) => channelOf(p, address)?.label) && channelOf(openPuppet(), address)
  const value = usePuppet(() => (channel ? valueSeen(address) : 0))
  if (!channel) return null
  const name = label ?? channel.label
  return (
    <NumberField
      label={name}
      value={value}
      unit={channel.unit}
      rest={channel.rest}
      step={channel.kind === 'scale' ? 0.05 : 1}
      digits={channel.kind === 'scale' ? 2 : 1}
      min={channel.min}
      max={channel.max}
      onChange={(v) => v !== null && perform([seenAt({ [address]: v })])}
      onDrag={(v) => {
        if (useDocument.getState().gesture === null) beginGesture(name)
        updateGesture([seenAt({ [address]: v })])
      }}
      onDragEnd={(kept) => (kept ? commitGesture() : cancelGesture())}
    />
  )
}
