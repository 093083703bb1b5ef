/** A number field for one channel of the pose. */
import { channelOf } from '@marionette/core/document/channels'
import { edit } from '@marionette/core/edit/command'
import { resetPose, setPose } from '@marionette/core/edit/pose'
import { beginGesture, cancelGesture, commitGesture, openPuppet, perform, updateGesture, useDocument, usePuppet } from '../state/document'
import { NumberField } from '../ui/NumberField'

export function ChannelField({ address, label }: { address: string; label?: string }) {
  const channel = usePuppet((p) => channelOf(p, address)?.label) && channelOf(openPuppet(), address)
  const value = usePuppet((p) => p.pose[address])
  if (!channel) return null
  const set = (v: number): void =>
    void perform([v === channel.rest ? edit(resetPose, { channels: [address] }) : edit(setPose, { values: { [address]: v } })])
  const name = label ?? channel.label
  return (
    <NumberField
      label={name}
      value={value ?? channel.rest}
      unit={channel.unit}
      rest={channel.rest}
      step={channel.kind === 'scale' ? 0.05 : 1}
      digits={channel.kind === 'scale' ? 2 : 1}
      min={channel.min}
      max={channel.max}
      onChange={(v) => v !== null && set(v)}
      onDrag={(v) => {
        if (useDocument.getState().gesture === null) beginGesture(name)
        updateGesture([edit(setPose, { values: { [address]: v } })])
      }}
      onDragEnd={(kept) => (kept ? commitGesture() : cancelGesture())}
    />
  )
}
