/** Records with every value changed. */
export const mapped = <V, W>(record: Readonly<Record<string, V>>, map: (value: V, key: string) => W): Record<string, W> =>
  Object.fromEntries(Object.entries(record).map(([key, value]) => [key, map(value, key)]))
