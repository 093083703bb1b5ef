/** Ids of saves: the window that sent it, how far its drafts had come, and a count. The server gives back the one that it has. */

export const saveIdOf = (tab: string, seq: number, count: number): string => `${tab}-${seq}-${count}`

/** Whether a save was sent by a window. */
export const isOfTab = (saveId: string | null, tab: string): boolean => saveId !== null && saveId.startsWith(`${tab}-`)

/** How far the drafts of the window had come that sent a save. */
export const seqOf = (saveId: string): number => Number(saveId.split('-')[1] ?? 0)
