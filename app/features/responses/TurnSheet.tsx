/** Turning a form of parts: depths of its parts, and how far it turns; the proposal is a pad with a stop at each side and corner. */
import { useState } from 'react'
import { depthsOf, isFigure, proposedTurn, type TurnedPart } from '@marionette/core/face/turning'
import { freshId } from '@marionette/core/kernel/ids'
import { addControl } from '@marionette/core/controls/commands'
import { addResponse } from '@marionette/core/responses/commands'
import { Thumb } from '../../pictures/Thumb'
import { openPuppet, perform, usePuppet } from '../../editor/document'
import { useRecording } from './recording'
import { openPanel, selectControl, useSession } from '../../editor/session'
import { Button } from '../../ui/Button'
import { NumberField } from '../../ui/NumberField'
import { Sheet } from '../../ui/Sheet'
import { useTurn } from './turning'
import { edit } from '@marionette/core/kernel/command'
import { useEditor } from '../../editor/editor'
import { Box } from '../../ui/Box'

export default function TurnSheet() {
  const editor = useEditor()
  const group = useTurn((s) => s.group)
  const puppet = usePuppet((p) => p)
  const [parts, setParts] = useState<readonly TurnedPart[]>(() => (group && puppet.parts[group] ? depthsOf(puppet, group) : []))
  const [yaw, setYaw] = useState(24)
  const isBody = group !== null && puppet.parts[group] !== undefined && isFigure(puppet, group)
  const [pitch, setPitch] = useState(isBody ? 0 : 14)
  if (!group || !puppet.parts[group]) return null
  const { name } = puppet.parts[group]
  const change = (part: string, by: Partial<TurnedPart>): void => setParts(parts.map((p) => (p.part === part ? { ...p, ...by } : p)))
  const make = (): void => {
    const made = proposedTurn(openPuppet(editor), { group, parts, yaw, pitch }, isBody ? 'Body turn' : `${name} turn`, freshId('turn'))
    if (!perform(editor, [edit(addControl, { control: made.control }), edit(addResponse, { response: made.response })], `Turn of ${name}`))
      return
    openPanel(editor, null)
    useSession.of(editor).setState({ shelfOpen: true, list: 'responses' })
    selectControl(editor, null)
    useRecording.of(editor).setState({ open: made.response.id })
  }
  return (
    <Sheet
      open
      onClose={() => openPanel(editor, null)}
      title={isBody ? `Turn the body of ${name}` : `Turn ${name}`}
      text={`Each part lies at a depth: 1 on the surface, 0 in the middle, below 0 at the back. ${pitch === 0 ? 'The slider gets a stop at each side' : 'The pad gets a stop at each side and corner'}, to be corrected by recording.`}
      wide
    >
      <div className="mb-3 flex gap-6">
        <NumberField label="To a side" value={yaw} unit="°" min={5} max={60} digits={0} onChange={(v) => v !== null && setYaw(v)} />
        <NumberField label="Up, down" value={pitch} unit="°" min={0} max={45} digits={0} onChange={(v) => v !== null && setPitch(v)} />
      </div>
      <ul className="grid grid-cols-2 gap-x-6">
        {parts.map((p) => (
          <li key={p.part} className="flex h-9 items-center gap-2 border-b border-hair">
            <Thumb kind="part" id={p.part} size={26} />
            <span className="min-w-0 flex-1 truncate">{puppet.parts[p.part]?.name}</span>
            <NumberField
              label={`Depth of ${puppet.parts[p.part]?.name}`}
              hideLabel
              value={p.depth}
              step={0.05}
              min={-1.5}
              max={2}
              digits={2}
              onChange={(v) => v !== null && change(p.part, { depth: v })}
            />
            <label className="flex items-center gap-1 text-xs text-quiet" title="Goes behind the others on the far side">
              <Box small checked={p.goesBehind} onChange={(on) => change(p.part, { goesBehind: on })} /> behind
            </label>
          </li>
        ))}
      </ul>
      <div className="mt-4 flex justify-end">
        <Button kind="keep" onClick={make}>
          {pitch === 0 ? 'Make the slider' : 'Make the pad'}
        </Button>
      </div>
    </Sheet>
  )
}
