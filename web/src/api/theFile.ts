/** A request whose body is a file, byte by byte; the document of the interface has no other word for it than numbers. */
export function theFile(file: Blob) {
  return {
    body: file as unknown as number[],
    bodySerializer: (body: number[]) => body as unknown as BodyInit,
    headers: { 'content-type': 'application/octet-stream' },
  }
}
