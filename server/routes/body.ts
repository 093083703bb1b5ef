/** Bodies of requests, checked. */
import { zValidator } from '@hono/zod-validator'
import type { z } from 'zod'
import { ApiError } from '../errors'
import { nth } from '@marionette/core/kernel/sure'

/** JSON of a shape; anything else is refused with what does not fit. */
export const body = <T extends z.ZodType>(schema: T) =>
  zValidator('json', schema, (result) => {
    if (!result.success) {
      const issue = nth(result.error.issues, 0)
      throw new ApiError(400, 'request.invalid', `The request does not fit: ${issue.path.join('.') || 'body'}: ${issue.message}.`)
    }
  })
