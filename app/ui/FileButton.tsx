/** A button that lets files be chosen. */
import { useRef, type ReactNode } from 'react'
import { Button } from './Button'

interface FileButtonProps {
  /** Endings or types, as for a file input. */
  readonly accept: string
  readonly isMany?: boolean
  readonly small?: boolean
  readonly testId?: string
  readonly onFiles: (files: File[]) => void
  readonly children: ReactNode
}

export function FileButton({ accept, isMany, small, testId, onFiles, children }: FileButtonProps) {
  const input = useRef<HTMLInputElement>(null)
  return (
    <>
      <Button small={small ?? false} onClick={() => input.current?.click()}>
        {children}
      </Button>
      <input
        ref={input}
        type="file"
        hidden
        accept={accept}
        multiple={isMany}
        data-testid={testId}
        onChange={(e) => {
          onFiles([...(e.target.files ?? [])])
          e.target.value = ''
        }}
      />
    </>
  )
}
