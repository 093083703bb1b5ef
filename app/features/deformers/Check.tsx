import { Box } from '../../ui/Box'

/** A box to tick, with what it means beside it. */
export function Check({
  label,
  says,
  checked,
  onChange,
}: {
  label: string
  says: string
  checked: boolean
  onChange: (on: boolean) => void
}) {
  return (
    <label className="flex h-7 items-center gap-2">
      <span className="w-[70px] flex-none text-quiet">{label}</span>
      <Box checked={checked} onChange={onChange} />
      <span className="cap">{says}</span>
    </label>
  )
}
