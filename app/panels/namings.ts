/** Naming conventions as people choose them. */
import type { Naming } from '@marionette/core/roles/records'

export const NAMINGS: readonly { readonly value: Naming; readonly label: string }[] = [
  { value: 'character-side', label: 'The character’s own' },
  { value: 'viewer-side', label: 'The viewer’s' },
  { value: 'near-far', label: 'Near and far' },
]
