/** A colour tag; an empty ring stands for none. */
export const TAG_NAMES = ['None', 'Red', 'Amber', 'Green', 'Blue', 'Violet', 'Grey'] as const

export function TagDot({ tag, size = 9 }: { tag: number; size?: number }) {
  const style = tag === 0 ? { border: '1.5px solid var(--twine)' } : { background: `var(--tag-${tag})` }
  return <i aria-hidden className="block flex-none rounded-full" style={{ width: size, height: size, ...style }} />
}
