/** Which part plays a role. */
import { Pick } from '../../ui/Pick'
import { usePuppet } from '../../editor/document'
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
    <div className="mb-1 flex min-h-7 items-center gap-2">
      <span className="w-[84px] flex-none whitespace-nowrap text-quiet">{label}</span>
      <div className="min-w-0 flex-1">
        <Pick
          label={of ? `${label}, ${of}` : label}
          value={value ?? ''}
          options={[{ id: '', label: 'none' }, ...partsByName(puppet).map((p) => ({ id: p.id, label: p.name }))]}
          onChange={(id) => onChange(id === '' ? null : id)}
        />
      </div>
    </div>
  )
}
