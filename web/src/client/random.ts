/** Random names; also where the page did not come over HTTPS. */

/** Random bytes in hexadecimal digits. */
export function randomHex(length: number): string {
  const bytes = crypto.getRandomValues(new Uint8Array(length));
  return Array.from(bytes, (byte) => byte.toString(16).padStart(2, "0")).join("");
}
