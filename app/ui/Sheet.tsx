/** A dialog in the manner of the house. */
import { X } from 'lucide-react'
import { Dialog } from 'radix-ui'
import type { DragEvent, ReactNode } from 'react'

interface SheetProps {
  readonly open: boolean
  /** Without it the sheet stays until its question is answered. */
  readonly onClose?: () => void
  readonly title: string
  readonly text?: string
  readonly wide?: boolean
  /** As wide as the window has room for. */
  readonly full?: boolean
  /** Takes the files that are dropped while it is open. Without it they are not taken at all: what lies below is not meant. */
  readonly onFiles?: (files: readonly File[]) => void
  readonly children?: ReactNode
}

export function Sheet({ open, onClose, title, text, wide, full, onFiles, children }: SheetProps) {
  const own = (e: DragEvent): void => {
    e.preventDefault()
    e.stopPropagation()
  }
  const drops = {
    onDragEnter: own,
    onDragOver: own,
    onDragLeave: own,
    onDrop: (e: DragEvent) => {
      own(e)
      if (e.dataTransfer.files.length > 0) onFiles?.([...e.dataTransfer.files])
    },
  }
  return (
    <Dialog.Root open={open} onOpenChange={(now) => !now && onClose?.()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/30" {...drops} />
        <Dialog.Content
          {...drops}
          className={`fixed top-1/2 left-1/2 z-40 flex max-h-[86vh] outline-none -translate-x-1/2 -translate-y-1/2 flex-col rounded-2xl bg-panel p-6 shadow-3 ${full ? 'w-[1080px]' : wide ? 'w-[680px]' : 'w-[440px]'} max-w-[94vw]`}
          {...(text ? {} : { 'aria-describedby': undefined })}
        >
          <div className="flex items-start gap-4">
            <Dialog.Title className="flex-1 font-display text-[19px]/6 font-semibold">{title}</Dialog.Title>
            {onClose && (
              <Dialog.Close asChild>
                {/* No hint on it: it has the focus first, and Escape would close the hint instead of the sheet. */}
                <button
                  type="button"
                  aria-label="Close"
                  className="-mt-1 -mr-2 grid size-8 place-items-center rounded-lg text-quiet hover:bg-tint hover:text-ink"
                >
                  <X size={16} />
                </button>
              </Dialog.Close>
            )}
          </div>
          {text && <Dialog.Description className="mt-1 text-quiet">{text}</Dialog.Description>}
          <div className="scroll-thin mt-4 min-h-0 overflow-y-auto">{children}</div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}
