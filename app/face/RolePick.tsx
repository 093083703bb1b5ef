/** Which part plays a role. */
import { Field, Pick } from '../details/Group'
import { usePuppet } from '../state/document'
import { partsByName } from './roles'

interface RolePickProps {
  readonly label: string
  /** Says whose role it is, for readers of the screen. */
  readonly of?: string
  readonly value: string | null
  readonly onChange: (part: string | null) => void
}

export function RolePick({ label, of, value, onChange }: RolePickProps) {
  const puppet = usePuppet((p) => p)
  return (
    <div className="mb-1">
      <Field label={label}>
        <Pick
          label={of ? `${label}, ${of}` : label}
          value={value ?? ''}
          options={[{ id: '', label: 'none' }, ...partsByName(puppet).map((p) => ({ id: p.id, label: p.name }))]}
          onChange={(id) => onChange(id === '' ? null : id)}
        />
      </Field>
    </div>
  )
}
