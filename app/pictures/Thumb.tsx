import { useIsBlank, useThumbnail } from './thumbnails'

/** The picture of a part or bone. */
export function Thumb({ kind, id, size = 26, faded = false }: { kind: 'part' | 'bone'; id: string; size?: number; faded?: boolean }) {
  const url = useThumbnail(kind, id)
  const isBlank = useIsBlank(kind, id)
  return (
    <span
      data-blank={isBlank || undefined}
      className={`flex-none overflow-hidden rounded-md bg-[var(--stage)] ${faded ? 'opacity-40' : ''}`}
      style={{ width: size, height: size }}
    >
      {url && <img src={url} alt="" width={size} height={size} draggable={false} />}
    </span>
  )
}
