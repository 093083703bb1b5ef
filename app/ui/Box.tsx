/** A box to tick. Its words are those of the label around it, or its own. */
import { Check } from 'lucide-react'
import { Checkbox } from 'radix-ui'

interface BoxProps {
  readonly checked: boolean
  readonly onChange: (checked: boolean) => void
  readonly small?: boolean
  readonly 'aria-label'?: string
}

export function Box({ checked, onChange, small = false, ...rest }: BoxProps) {
  return (
    <Checkbox.Root
      {...rest}
      checked={checked}
      onCheckedChange={(on) => onChange(on === true)}
      className={`grid flex-none place-items-center rounded-[4px] shadow-[inset_0_0_0_1.25px_var(--twine)] transition-colors hover:shadow-[inset_0_0_0_1.25px_var(--quiet)] data-[state=checked]:bg-verdigris data-[state=checked]:shadow-none ${small ? 'size-3.5' : 'size-4'}`}
    >
      <Checkbox.Indicator>
        <Check size={small ? 10 : 12} strokeWidth={3.5} className="text-on-accent" />
      </Checkbox.Indicator>
    </Checkbox.Root>
  )
}
