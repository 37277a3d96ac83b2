/** Reads a body, but no more than `most` bytes of it. */
export async function readUpTo(request: Request, most: number): Promise<Buffer> {
  const parts: Uint8Array[] = [];
  let length = 0;
  const reader = request.body?.getReader();
  while (reader && length < most) {
    const { done, value } = await reader.read();
    if (done) break;
    parts.push(value);
    length += value.length;
  }
  await reader?.cancel();
  return Buffer.concat(parts);
}
