/** Masking one part by another. */
import { edit } from '@marionette/core/edit/command'
import { setMasks } from '@marionette/core/edit/layering'
import { openPuppet, perform } from '../state/document'

/** Masks a part by another one: inside its area, until somebody says otherwise. */
export function maskBy(part: string, shape: string): boolean {
  const { parts } = openPuppet()
  const masks = [...parts[part]!.masks, { shape, keep: 'inside' as const, by: 'area' as const }]
  return perform([edit(setMasks, { part, masks })], `Mask ${parts[part]!.name} by ${parts[shape]!.name}`)
}
