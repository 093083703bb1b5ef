/** Numbers of a record, one below the other; each is typed, or dragged as one gesture. */
import type { Edit } from '@marionette/core/kernel/command'
import { useEditor } from '../editor/editor'
import { beginGesture, endGesture, perform, updateGesture, useDocument } from '../editor/document'
import { NumberField } from '../ui/NumberField'

/** A number as it is shown. */
export interface NumberRow<Field extends string> {
  readonly field: Field
  readonly label: string
  readonly unit: string
  /** What the number is shown times. */
  readonly by: number
  readonly min: number
  readonly max: number
  readonly digits: number
  readonly step: number
}

interface NumberRowsProps<Field extends string> {
  readonly rows: readonly NumberRow<Field>[]
  readonly of: Readonly<Record<Field, number>>
  /** What the record is called, for the history. */
  readonly name: string
  readonly editOf: (field: Field, value: number) => Edit
  /** Called before the first change of a gesture. */
  readonly onBegin?: () => void
}

export function NumberRows<Field extends string>({ rows, of, name, editOf, onBegin }: NumberRowsProps<Field>) {
  const editor = useEditor()
  return rows.map(({ field, label, unit, by, ...rest }) => {
    const says = `${label} of ${name}`
    const drag = (v: number): void => {
      if (useDocument.of(editor).getState().gesture === null) {
        onBegin?.()
        beginGesture(editor, says)
      }
      updateGesture(editor, [editOf(field, v / by)])
    }
    const set = (v: number | null): void => {
      if (v === null) return
      onBegin?.()
      perform(editor, [editOf(field, v / by)], says)
    }
    return (
      <NumberField
        key={field}
        {...{ label, unit, ...rest }}
        value={Number((of[field] * by).toFixed(rest.digits))}
        onChange={set}
        onDrag={drag}
        onDragEnd={(kept) => endGesture(editor, kept)}
      />
    )
  })
}
