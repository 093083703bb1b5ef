/** Everything that can be reached from some cells of a grid over edges, without what bars the way. */

/**
 * @param barred [width * height] 1 where nothing passes; a start that is barred reaches nothing
 * @returns [width * height] 1 where a cell is reached
 */
export function flood(barred: Uint8Array, width: number, height: number, starts: Iterable<number>): Uint8Array {
  const out = new Uint8Array(barred.length)
  const stack: number[] = []
  const push = (i: number): void => {
    if (barred[i] || out[i]) return
    out[i] = 1
    stack.push(i)
  }
  for (const start of starts) push(start)
  while (stack.length > 0) {
    const i = stack.pop()!
    const x = i % width
    if (x > 0) push(i - 1)
    if (x < width - 1) push(i + 1)
    if (i >= width) push(i - width)
    if (i < width * (height - 1)) push(i + width)
  }
  return out
}
