/** A marker on the ruler: a press looks at its moment, a double click or its menu writes its note. */
import { ContextMenu } from 'radix-ui'
import { useState } from 'react'
import { deleteMarker, setMarker } from '@marionette/core/clips/commands'
import type { Clip, Marker } from '@marionette/core/clips/records'
import { edit } from '@marionette/core/kernel/command'
import { useEditor } from '../../editor/editor'
import { perform } from '../../editor/document'
import { Hint } from '../../ui/Button'
import { MENU, MENU_ITEM } from '../../ui/menu'
import { NameInput } from '../../ui/NameInput'
import { seek } from './acting'

export function MarkerFlag({ clip, marker, x }: { clip: Clip; marker: Marker; x: number }) {
  const editor = useEditor()
  const [isNamed, setNamed] = useState(false)
  const rename = (note: string): boolean =>
    perform(editor, [edit(setMarker, { clip: clip.id, marker: { ...marker, note } })], 'Write marker')
  return (
    <ContextMenu.Root>
      <ContextMenu.Trigger asChild>
        <span
          className="absolute bottom-0 z-10 -translate-x-1/2"
          style={{ left: x }}
          onPointerDown={(e) => e.stopPropagation()}
          onDoubleClick={(e) => {
            e.stopPropagation()
            setNamed(true)
          }}
        >
          {isNamed ? (
            <span className="block w-24 rounded bg-panel px-1 shadow-1" onBlur={() => setNamed(false)}>
              <NameInput label="Note of the marker" name={marker.note} takesFocus onRename={rename} />
            </span>
          ) : (
            <Hint label={marker.note} side="top">
              <button
                type="button"
                aria-label={`Marker ${marker.note}`}
                className="block h-3 w-2.5 rounded-t bg-brass"
                onClick={() => seek(editor, marker.time)}
              />
            </Hint>
          )}
        </span>
      </ContextMenu.Trigger>
      <ContextMenu.Portal>
        <ContextMenu.Content className={MENU}>
          <ContextMenu.Item className={MENU_ITEM} onSelect={() => setTimeout(() => setNamed(true))}>
            Write a note
          </ContextMenu.Item>
          <ContextMenu.Item
            className={MENU_ITEM}
            onSelect={() => void perform(editor, [edit(deleteMarker, { clip: clip.id, marker: marker.id })])}
          >
            Delete marker
          </ContextMenu.Item>
        </ContextMenu.Content>
      </ContextMenu.Portal>
    </ContextMenu.Root>
  )
}
