/** Nails: spots that stay where they are while the puppet is pulled. They last as long as it is open and belong to no document. */
import { create } from 'zustand'
import type { Nail } from '@marionette/core/rig/nails'

export const useNails = create<{ nails: readonly Nail[] }>(() => ({ nails: [] }))

export const nailsNow = (): readonly Nail[] => useNails.getState().nails
export const addNail = (nail: Nail): void => useNails.setState((s) => ({ nails: [...s.nails, nail] }))
export const removeNail = (nail: Nail): void => useNails.setState((s) => ({ nails: s.nails.filter((n) => n !== nail) }))
export const removeNails = (): void => useNails.setState({ nails: [] })
