/** What goes wrong with a sentence for people. */

/** A refusal; the message is shown to the person as it is. */
export class EditError extends Error {}
