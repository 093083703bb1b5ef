/** A number field for one channel, as it is seen: with what controls and responses add. */
import { channelOf } from '@marionette/core/puppet/channels'
import { beginGesture, cancelGesture, commitGesture, openPuppet, perform, updateGesture, useDocument, usePuppet } from '../editor/document'
import { seenAt, valueSeen } from '../editor/poseInverse'
import { NumberField } from '../ui/NumberField'
import { useEditor } from '../editor/editor'

export function ChannelField({ address, label }: { address: string; label?: string }) {
  const editor = useEditor()
  const channel = usePuppet((p) => channelOf(p, address)?.label) && channelOf(openPuppet(editor), address)
  const value = usePuppet(() => (channel ? valueSeen(editor, address) : 0))
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
      onChange={(v) => v !== null && perform(editor, [seenAt(editor, { [address]: v })])}
      onDrag={(v) => {
        if (useDocument.of(editor).getState().gesture === null) beginGesture(editor, name)
        updateGesture(editor, [seenAt(editor, { [address]: v })])
      }}
      onDragEnd={(kept) => (kept ? commitGesture(editor) : cancelGesture(editor))}
    />
  )
}
