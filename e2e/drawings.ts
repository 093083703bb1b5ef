/** Free drawings of others, from packages that only the tests use: what people really drop. */
import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { dirname, join } from 'node:path'

const require = createRequire(import.meta.url)

/** Every nth of a list, so that a sample runs through all of it. */
const spread = <T>(list: readonly T[], count: number): T[] =>
  Array.from({ length: count }, (_, i) => list[Math.floor((i * list.length) / count)]!)

/** Drawings of a collection that keeps them as bodies in one JSON file. */
function fromCollection(name: string, count: number): [string, string][] {
  const {
    icons,
    width = 16,
    height = 16,
  } = JSON.parse(readFileSync(require.resolve(`${name}/icons.json`), 'utf8')) as {
    icons: Record<string, { body: string; width?: number; height?: number }>
    width?: number
    height?: number
  }
  return spread(Object.keys(icons).sort(), count).map((key) => {
    const icon = icons[key]!
    const box = `0 0 ${icon.width ?? width} ${icon.height ?? height}`
    return [key, `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" viewBox="${box}">${icon.body}</svg>`]
  })
}

/** Flags, 4 by 3: many copies, clip paths, style sheets and deep nesting. */
function flags(count: number): [string, string][] {
  const folder = dirname(require.resolve('flag-icons/package.json'))
  const codes = JSON.parse(readFileSync(join(folder, 'country.json'), 'utf8')) as { code: string; flag_4x3: string }[]
  return spread(codes, count).map(({ code, flag_4x3 }) => [code, readFileSync(join(folder, flag_4x3), 'utf8')])
}

/** A sample of drawings by name. */
export const freeDrawings = (each: number): [string, string][] => [...fromCollection('@iconify-json/noto', each), ...flags(each)]
