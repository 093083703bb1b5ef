/** A name in a list that is changed in place: Enter or leaving takes it, a refusal puts the old one back. */
interface NameInputProps {
  readonly label: string
  readonly name: string
  /** Whether it has the focus as soon as it is there. */
  readonly takesFocus?: boolean
  /** Tells whether the new name was taken. */
  readonly onRename: (name: string) => boolean
}

export function NameInput({ label, name, takesFocus = false, onRename }: NameInputProps) {
  return (
    <input
      key={name}
      aria-label={label}
      defaultValue={name}
      autoFocus={takesFocus}
      onFocus={(e) => takesFocus && e.currentTarget.select()}
      maxLength={100}
      className="h-7 min-w-0 flex-1 bg-transparent outline-none"
      onKeyDown={(e) => {
        e.stopPropagation()
        if (e.key === 'Enter') e.currentTarget.blur()
      }}
      onBlur={(e) => {
        const wanted = e.target.value.trim()
        if (wanted === name || wanted === '' || !onRename(wanted)) e.target.value = name
      }}
    />
  )
}
