/** A random identifier of 128 bits. (`crypto.randomUUID` is missing over plain HTTP from another machine.) */
export const randomId = (): string =>
  Array.from(crypto.getRandomValues(new Uint8Array(16)), (byte) => byte.toString(16).padStart(2, '0')).join(
    '',
  );
