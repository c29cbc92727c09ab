/** An id for a request that nobody can guess: asked again with the same one, the server answers as before. */
export function requestID(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(18));
  return btoa(String.fromCharCode(...bytes))
    .replaceAll("+", "-")
    .replaceAll("/", "_");
}
