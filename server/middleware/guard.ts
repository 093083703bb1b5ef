/** Refuses requests that come from other sites or under a strange host name, and sets protective headers. */
import type { MiddlewareHandler } from 'hono'
import { secureHeaders } from 'hono/secure-headers'
import { ApiError } from '../errors'

const hostName = (host: string): string => host.replace(/:\d+$/, '').toLowerCase()

/** The host of an origin; null for what is none. */
function hostOf(origin: string): string | null {
  try {
    return new URL(origin).host
  } catch {
    return null
  }
}

/** Checks Host always and Origin where the browser sends one: a page of another site must not reach the library. */
export function guard(allowedHosts: readonly string[]): MiddlewareHandler {
  return async (c, next) => {
    const host = c.req.header('Host') ?? hostOf(c.req.url) ?? ''
    if (!allowedHosts.includes(hostName(host)))
      throw new ApiError(
        421,
        'request.host',
        'This server does not answer to that name; MARIONETTE_ALLOWED_HOSTS lists the ones that it does.',
      )
    const origin = c.req.header('Origin')
    if (origin === 'null') throw new ApiError(403, 'request.origin', 'Requests without an origin are refused.')
    if (origin && hostOf(origin) !== host) throw new ApiError(403, 'request.origin', 'Requests from other sites are refused.')
    await next()
  }
}

/** Content security policy: everything from here, wasm allowed, no foreign frames. */
export const protectiveHeaders = (): MiddlewareHandler =>
  secureHeaders({
    contentSecurityPolicy: {
      defaultSrc: ["'self'"],
      scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
      styleSrc: ["'self'", "'unsafe-inline'"],
      imgSrc: ["'self'", 'blob:', 'data:'],
      mediaSrc: ["'self'", 'blob:'],
      fontSrc: ["'self'", 'data:'],
      workerSrc: ["'self'", 'blob:'],
      connectSrc: ["'self'", 'blob:'],
      objectSrc: ["'none'"],
      frameAncestors: ["'none'"],
      baseUri: ["'none'"],
    },
    xFrameOptions: 'DENY',
  })
