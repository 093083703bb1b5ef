/** Defaults: a new response. */
import type { ResponseId } from '../kernel/ids'
import type { Input, Response } from './records'

/** A response before anything was recorded. */
export function newResponse(id: ResponseId, name: string, kind: Response['kind'], inputs: Input[]): Response {
  return {
    ...{ id, name, kind, inputs, stops: [] },
    ...{ between: 'smooth', curve: [0.4, 0, 0.6, 1], beyond: 'hold', overshoots: false },
    ...{ fade: 'product', switchAt: 0.5, priority: 0, muted: false },
  }
}
