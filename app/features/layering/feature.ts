/** Masks in the interface. */
import { inBelts, type Feature } from '../../panels/feature'
import { maskTool } from './maskTool'

export const layering: Feature = { name: 'layering', tools: inBelts(maskTool, { face: 50 }) }
