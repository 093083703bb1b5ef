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

/**
 * Goes out from some cells over edges, a step a wave, each cell once.
 *
 * @param take takes a cell in, which was come to from another one, or refuses it; it must refuse what it took before
 */
export function wavesFrom(
  starts: readonly number[],
  width: number,
  height: number,
  take: (cell: number, from: number, step: number) => boolean,
): void {
  let front = starts
  for (let step = 1; front.length > 0; step++) {
    const next: number[] = []
    const come = (cell: number, from: number): void => {
      if (take(cell, from, step)) next.push(cell)
    }
    for (const i of front) {
      const x = i % width
      if (x > 0) come(i - 1, i)
      if (x < width - 1) come(i + 1, i)
      if (i >= width) come(i - width, i)
      if (i < width * (height - 1)) come(i + width, i)
    }
    front = next
  }
}
