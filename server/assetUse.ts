/** Which pictures a document needs, told from its text: no version of the document, however old or new, has to be understood for it. */

/** Everything in a text that may be the hash of a picture. */
export const hashesIn = (text: string): Set<string> => new Set(text.match(/(?<![0-9a-f])[0-9a-f]{64}(?![0-9a-f])/g) ?? [])
