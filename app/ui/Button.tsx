import { Tooltip } from 'radix-ui'
import { keysShown } from './keys'
import type { ButtonHTMLAttributes, ReactNode } from 'react'

const KINDS = {
  ink: 'bg-ink text-panel hover:opacity-90',
  keep: 'bg-verdigris text-on-accent hover:opacity-90',
  danger: 'bg-cord text-on-accent hover:opacity-90',
  line: 'shadow-[inset_0_0_0_1px_var(--twine)] hover:bg-tint',
}

interface ButtonProps extends ButtonHTMLAttributes<HTMLButtonElement> {
  readonly kind?: keyof typeof KINDS
  readonly small?: boolean
}

/** A pill with a label. */
export function Button({ kind = 'line', small, className = '', ...rest }: ButtonProps) {
  const size = small ? 'h-[26px] px-2.5 text-xs' : 'h-8 px-3.5'
  return (
    <button
      type="button"
      {...rest}
      className={`inline-flex items-center justify-center gap-1.5 rounded-full font-semibold whitespace-nowrap transition-[opacity,background] disabled:opacity-45 disabled:hover:bg-transparent ${size} ${KINDS[kind]} ${className}`}
    />
  )
}

interface IconButtonProps extends ButtonHTMLAttributes<HTMLButtonElement> {
  readonly label: string
  readonly keys?: string | undefined
  readonly children: ReactNode
}

/** An icon with its name on hover and for screen readers. */
export function IconButton({ label, keys, children, className = '', ...rest }: IconButtonProps) {
  return (
    <Hint label={label} keys={keys}>
      <button
        type="button"
        aria-label={label}
        {...rest}
        className={`grid size-8 place-items-center rounded-lg text-quiet transition-colors hover:bg-tint hover:text-ink disabled:opacity-45 disabled:hover:bg-transparent ${className}`}
      >
        {children}
      </button>
    </Hint>
  )
}

/** A name, with its key, that appears on hover or focus. */
export function Hint({
  label,
  keys,
  side = 'bottom',
  children,
}: {
  label: string
  keys?: string | undefined
  side?: 'top' | 'bottom'
  children: ReactNode
}) {
  return (
    <Tooltip.Root>
      <Tooltip.Trigger asChild>{children}</Tooltip.Trigger>
      <Tooltip.Portal>
        <Tooltip.Content
          side={side}
          sideOffset={6}
          className="z-50 flex items-center gap-2 rounded-lg bg-ink px-2.5 py-1 text-xs text-panel shadow-2"
        >
          {label}
          {keys && <kbd className="rounded bg-panel/20 px-1 font-ui text-[11px]">{keysShown(keys)}</kbd>}
        </Tooltip.Content>
      </Tooltip.Portal>
    </Tooltip.Root>
  )
}
