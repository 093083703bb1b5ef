/** Copies of binds: weights belong to spots of the artwork, only who pulls there changes. */
import type { Copying, CopyInside } from '../kernel/copying'
import type { Bind } from './records'

/** Where the bones were when the weights were made [4b], in the copy's place. */
function moved(bind: Bind, { at }: Copying): Bind {
  if (bind.kind !== 'blended') return bind
  const madeAt: number[] = []
  for (let i = 0; i + 1 < bind.madeAt.length; i += 2) {
    const { x, y } = at({ x: bind.madeAt[i]!, y: bind.madeAt[i + 1]! })
    madeAt.push(x, y)
  }
  return { ...bind, madeAt }
}

/** Moves the bind of a copied part to the copied bones, where they were copied along. */
export const copyBinds: CopyInside = (part, copying) => ({
  ...part,
  bind: part.bind && moved(part.bind, copying),
  inViews: Object.fromEntries(
    Object.entries(part.inViews).map(([view, own]) => [view, own.bind ? { ...own, bind: moved(own.bind, copying) } : own]),
  ),
})
