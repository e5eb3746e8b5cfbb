// Answers of long searches: one JSON text a line, as far as they are.

/** Reads an answer that comes line by line; the last line is what was asked for. */
export async function lastLine<T>(lines: ReadableStream<Uint8Array>, onLine: (line: T) => void): Promise<T> {
  const [reader, decoder] = [lines.getReader(), new TextDecoder()];
  let rest = '';
  let last: T | undefined;
  for (let read = await reader.read(); !read.done; read = await reader.read()) {
    const whole = (rest + decoder.decode(read.value, { stream: true })).split('\n');
    rest = whole.pop() ?? '';
    for (const line of whole) {
      last = JSON.parse(line) as T;
      onLine(last);
    }
  }
  if (!last) throw new Error('the answer was cut short; try again');
  return last;
}
