/** What can be done with a stop: recorded again, copied across rest, emptied, deleted. */
import { ContextMenu } from 'radix-ui'
import type { ReactNode } from 'react'
import { freshId } from '@marionette/core/kernel/ids'
import type { Change, Response, Stop } from '@marionette/core/puppet/schema'
import { addStop, deleteStop, recordStop } from '@marionette/core/responses/commands'
import { restOfInput } from '@marionette/core/responses/inputs'
import { openPuppet, perform } from '../../editor/document'
import { recordAgain, recordingNow } from './recording'
import { MENU, MENU_ITEM } from '../../ui/menu'
import { edit, type Edit } from '@marionette/core/kernel/command'
import { channelOf } from '@marionette/core/puppet/channels'
import { useEditor, type Editor } from '../../editor/editor'
import { nth } from '@marionette/core/kernel/sure'

/** The same change the other way. */
function opposite(change: Change): Change {
  if (change.kind === 'points') return { ...change, by: change.by.map((v) => -v) }
  if (change.kind !== 'channel') return change
  const isScale = /\/(scaleX|scaleY|length|scale)$/.test(change.channel)
  return { ...change, by: isScale ? 1 / Math.max(change.by, 1e-3) : -change.by }
}

/** Copies a stop to as far on the other side of rest, as it is or the other way. */
export function copyAcross(editor: Editor, response: Response, stop: Stop, isOpposite: boolean): void {
  const puppet = openPuppet(editor)
  const at = stop.at.map((v, k) => 2 * (restOfInput(puppet, nth(response.inputs, k), channelOf) ?? 0) - v)
  const changes = isOpposite ? stop.changes.map(opposite) : stop.changes
  perform(editor, [edit(addStop, { response: response.id, stop: { id: freshId('stop'), at, changes } })], `Copy a stop of ${response.name}`)
}

/** The edit that makes everything a stop changes weaker or stronger. */
export const scaledStop = (response: Response, stop: Stop, factor: number): Edit =>
  edit(recordStop, {
    response: response.id,
    stop: stop.id,
    changes: stop.changes.map((c) => ({ ...c, scale: Math.round(c.scale * factor * 1000) / 1000 })),
  })

const scaleStop = (editor: Editor, response: Response, stop: Stop, factor: number): void =>
  void perform(editor, [scaledStop(response, stop, factor)], `Scale a stop of ${response.name}`)

export function StopMenu({ response, stop, children }: { response: Response; stop: Stop; children: ReactNode }) {
  const editor = useEditor()
  const item = (label: string, run: () => void) => (
    <ContextMenu.Item className={MENU_ITEM} disabled={recordingNow(editor) !== null} onSelect={run}>
      {label}
    </ContextMenu.Item>
  )
  return (
    <ContextMenu.Root>
      <ContextMenu.Trigger asChild>{children}</ContextMenu.Trigger>
      <ContextMenu.Portal>
        <ContextMenu.Content className={MENU}>
          {item('Record again', () => void recordAgain(editor, response, stop))}
          {item('Copy to the other side of rest', () => copyAcross(editor, response, stop, false))}
          {item('Copy there, the other way', () => copyAcross(editor, response, stop, true))}
          {item('Half as much', () => scaleStop(editor, response, stop, 0.5))}
          {item('Half as much again', () => scaleStop(editor, response, stop, 1.5))}
          {item(
            'Delete stop',
            () => void perform(editor, [edit(deleteStop, { response: response.id, stop: stop.id })], `Delete a stop of ${response.name}`),
          )}
        </ContextMenu.Content>
      </ContextMenu.Portal>
    </ContextMenu.Root>
  )
}
