/** Keys as they are printed, and as people of each system read them. */

const isMac = (): boolean =>
  typeof navigator !== 'undefined' && /mac/i.test(navigator.userAgent) && !/iphone|ipad|ipod/i.test(navigator.userAgent)

/** Keys for people: what is Ctrl elsewhere is Cmd on a Mac. */
export const keysShown = (keys: string, mac = isMac()): string =>
  mac ? keys.replace(/\bCtrl\b/g, 'Cmd').replace(/\bAlt\b/g, 'Option') : keys

/** Signs by the names that stand for them in key tables, where a plus joins keys. */
const SIGNS: Readonly<Record<string, string>> = { plus: '+', minus: '-', equal: '=', question: '?' }

/** Joins keys in place of the plus, which is a key itself. */
export const JOIN = '&'

/** Keys of a table as they are listened to: signs written out, joined by JOIN. */
export const listened = (keys: string): string =>
  keys
    .split(',')
    .map((one) =>
      one
        .trim()
        .split('+')
        .map((key) => SIGNS[key] ?? key)
        .join(JOIN),
    )
    .join(',')

/** Whether keys are meant by their place: digits stand in one row on every keyboard, whatever they print unshifted. */
export const isByPlace = (keys: string): boolean => /(^|\+)\d$/.test(keys)

/** Whether a key prints no letter or sign that tables could name: on Cyrillic or Greek keyboards the place has to tell. */
export const printsNothingKnown = ({ key }: { readonly key: string }): boolean => key.length === 1 && key.charCodeAt(0) > 127
