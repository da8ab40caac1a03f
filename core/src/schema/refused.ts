/** What was asked for cannot be done, and nothing has changed. The message is the sentence that tells people why. */
export class Refused extends Error {}
