/** A message of the core as a sentence: it ends with its own question mark, or with a full stop. */
export const asSentence = (message: string): string => (message.endsWith('?') ? message : `${message}.`);
