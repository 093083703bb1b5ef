/** Rows of the trees that the interface shows. */

export interface Row {
  readonly id: string
  readonly depth: number
  readonly parent: string | null
  readonly hasChildren: boolean
  /** For each level above, whether its line goes on below this row. */
  readonly rails: readonly boolean[]
}
