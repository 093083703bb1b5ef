/** Names of the formats that can be read: what they are called, and how their files end; the first ending is the usual one. */
export const READ_FORMATS = {
  openraster: { label: 'OpenRaster', endings: ['.ora'] },
  archive: { label: 'Puppet archive', endings: ['.marionette', '.puppet'] },
  psd: { label: 'PSD', endings: ['.psd', '.psb'] },
  picture: { label: 'Picture', endings: ['.png', '.webp', '.jpg', '.jpeg'] },
  svg: { label: 'SVG', endings: ['.svg'] },
} as const

/** Endings of all files that can be read. */
export const READABLE_ENDINGS: readonly string[] = Object.values(READ_FORMATS).flatMap((f) => f.endings)
