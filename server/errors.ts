/** Refusals that reach the client: a status, a stable code and one sentence. */
import type { ContentfulStatusCode } from 'hono/utils/http-status'

export class ApiError extends Error {
  constructor(
    readonly status: ContentfulStatusCode,
    readonly code: string,
    message: string,
    readonly details: Readonly<Record<string, unknown>> = {},
  ) {
    super(message)
  }
}

export const missing = (id: string): ApiError => new ApiError(404, 'puppet.missing', `There is no puppet "${id}" in the library.`)
